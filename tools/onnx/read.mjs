// Runs ONNX models with an independent runtime. One request per line of standard input:
// {"model": path, "inputs": {name: {"type": "double" | "string", "values": [...]}}}; null = missing. One answer per line.
import { createInterface } from 'node:readline'
import { readFile } from 'node:fs/promises'
import * as ort from 'onnxruntime-web'

ort.env.wasm.numThreads = 1
ort.env.logLevel = 'error'

const tensor = ({ type, values }) =>
  type === 'string'
    ? new ort.Tensor('string', values.map((v) => v ?? ''), [values.length])
    : new ort.Tensor('float64', Float64Array.from(values, (v) => v ?? NaN), [values.length])

for await (const line of createInterface({ input: process.stdin })) {
  try {
    const asked = JSON.parse(line)
    const session = await ort.InferenceSession.create(new Uint8Array(await readFile(asked.model)))
    const feeds = Object.fromEntries(Object.entries(asked.inputs).map(([name, input]) => [name, tensor(input)]))
    const out = await session.run(feeds)
    const answers = Object.fromEntries(Object.entries(out).map(([name, t]) => [name, Array.from(t.data, (v) => (Number.isNaN(v) ? null : v))]))
    console.log(JSON.stringify({ answers }))
    await session.release()
  } catch (e) {
    console.log(JSON.stringify({ error: String(e?.message ?? e) }))
  }
}
