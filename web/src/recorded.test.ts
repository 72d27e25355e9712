import { readFileSync } from 'node:fs'
import Ajv from 'ajv'
import { expect, test } from 'vitest'
import recorded from './recorded.json'

type Schema = Record<string, unknown> & { properties?: object }
type Document = {
  paths: Record<string, Record<string, { responses: Record<string, { content?: Record<string, { schema: Schema }> }> }>>
  components: { schemas: Record<string, Schema> }
}
const api = JSON.parse(readFileSync('../docs/openapi.json', 'utf8')) as Document
const views = Object.fromEntries(
  Object.entries(api.components.schemas).map(([name, s]) => [
    name,
    s.properties ? { ...s, additionalProperties: s.additionalProperties ?? false } : s,
  ]),
)
const ajv = new Ajv({ strict: false, allErrors: true, validateFormats: false })
const absolute = (schema: unknown) =>
  JSON.parse(JSON.stringify(schema).replaceAll('"#/', '"api#/').replaceAll('"oneOf"', '"anyOf"')) as Schema

// A whole number is a number, too: one of them is enough.
ajv.addSchema({ $id: 'api', ...absolute({ components: { schemas: views } }) })

/** Answers kept under a name of their own, and what they answer. */
const named: Record<string, string> = {
  number: 'JudgmentView',
  classes: 'JudgmentView',
  rules: 'JudgmentView',
  boost: 'TreesSection',
  curves: 'CurvesSection',
  network: 'NetworkSection',
  evidence: 'EvidenceSection',
  neighbors: 'NeighborsSection',
  epochs: 'CourseSection',
  worst: 'WorstView',
  bins: 'BinsLook',
  'number standings': 'StandingsView',
  'number study': 'StudyView',
  'searched standings': 'StandingsView',
  curve: 'CurveView',
  guided: 'GuidedView',
  'event figures': 'EventSection',
  'two beside': 'SideBySideView',
  'number beside': 'SideBySideView',
  'number reasons': 'ReasonsView',
}

function schemaOf(key: string): Schema {
  if (named[key] !== undefined) return { $ref: `api#/components/schemas/${named[key]}` }
  const [method = '', path = ''] = key.split(' ')
  const answers = Object.entries(api.paths)
    .filter(([template]) => new RegExp(`^${template.replaceAll(/\{\w+\}/g, '[^/]+')}$`).test(path))
    .sort(([a], [b]) => a.split('{').length - b.split('{').length)
  const found = answers[0]?.[1][method.toLowerCase()]?.responses
  const content = (found?.['200'] ?? found?.['201'] ?? found?.['202'])?.content?.['application/json']?.schema
  if (content === undefined) throw new Error(`The document has no answer to ${key}.`)
  return absolute(content)
}

test.each(Object.keys(recorded))('%s is answered as the document says', (key) => {
  const schema = schemaOf(key)
  const holds = ajv.compile(schema)
  holds((recorded as Record<string, unknown>)[key])
  expect((holds.errors ?? []).map((e) => `${e.instancePath} ${e.message} ${JSON.stringify(e.params)}`)).toEqual([])
})
