import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { api, take, type View } from '../api/client'

export type Job = View<'JobView'>

export const isOver = (job: Job) => job.state === 'done' || job.state === 'failed' || job.state === 'cancelled'

const TABLE = ['tables', 'register', 'column', 'rows', 'pictures', 'findings', 'combinations', 'preparation', 'match', 'standings']
/** What is read anew when a job of a kind is over; beside it the home page, the study at a glance, its logbook and what is new. */
const CHANGED: Record<string, string[]> = {
  import: TABLE,
  combine: TABLE,
  look: ['register', 'column', 'pictures', 'findings'],
  'look at column': ['goes-with'],
  toll: ['preparation', 'preview'],
  trial: ['standings', 'search', 'judgment', 'preparation', 'against', 'groups', 'records', 'worst', 'tree', 'reasons', 'match'],
  curve: ['curve'],
  handed: ['judgment', 'standings'],
  matters: ['reasons'],
  because: ['scored'],
  search: ['standings', 'search'],
  guided: ['standings', 'search', 'preparation'],
  scoring: ['scoring', 'scored', 'reasons'],
  inside: ['takeAway'],
  recheck: ['rechecks'],
}
const ALWAYS = ['studies', 'study', 'logbook', 'notices']
/** Kept by the study: those of other studies stay as they are. */
const OF_STUDY = ['study', 'logbook', 'tables', 'standings', 'preparation', 'combinations', 'match']

/** Whether an answer under a key may be another one now that a job is over. */
export function changes(job: { kind: string; studyId: number }, key: readonly unknown[]): boolean {
  const [what, id] = [String(key[0]), String(key[1])]
  const changed = CHANGED[job.kind]
  if (changed === undefined) return what !== 'session' && what !== 'jobs'
  if (!ALWAYS.includes(what) && !changed.includes(what)) return false
  return !OF_STUDY.includes(what) || id === String(job.studyId)
}

/** Running work, asked for once a second while there is some. When a job ends, what it changed is read anew. */
export function useJobs() {
  const queries = useQueryClient()
  const seen = useRef(new Map<number, string>())
  const jobs = useQuery({
    queryKey: ['jobs'],
    queryFn: () => take<Job[]>(api.GET('/api/jobs')),
    refetchInterval: (query) => (query.state.data?.some((j) => !isOver(j)) ? 1000 : 8000),
  })
  useEffect(() => {
    for (const job of jobs.data ?? []) {
      const before = seen.current.get(job.id)
      if (before !== undefined && before !== job.state && isOver(job))
        void queries.invalidateQueries({ predicate: (q) => changes(job, q.queryKey) })
      seen.current.set(job.id, job.state)
    }
  }, [jobs.data, queries])
  return jobs
}

export function useJob(id: number | null) {
  return useQuery({
    queryKey: ['job', id],
    enabled: id !== null,
    queryFn: () => take<Job>(api.GET('/api/jobs/{id}', { params: { path: { id: String(id) } } })),
    refetchInterval: (query) => (query.state.data && isOver(query.state.data) ? false : 500),
  })
}

export function useCancel() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: number) => take<Job>(api.POST('/api/jobs/{id}/cancel', { params: { path: { id: String(id) } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['jobs'] }),
  })
}
