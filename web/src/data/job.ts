import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { api, take, type View } from '../api/client'

export type Job = View<'JobView'>

export const isOver = (job: Job) => job.state === 'done' || job.state === 'failed' || job.state === 'cancelled'

/** Running work, asked for once a second while there is some. When a job ends, everything about its study is read anew. */
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
        void queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'session' && q.queryKey[0] !== 'jobs' })
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
