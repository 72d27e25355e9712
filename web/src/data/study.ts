import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { api, idempotencyKey, take, type View } from '../api/client'

export type Study = View<'StudyView'>

export function useStudies() {
  return useQuery({ queryKey: ['studies'], queryFn: () => take<Study[]>(api.GET('/api/studies')) })
}

export function useStudyId(): number {
  return Number(useParams().studyId)
}

export function useStudy(id: number) {
  return useQuery({
    queryKey: ['study', id],
    enabled: id > 0,
    queryFn: () => take<Study>(api.GET('/api/studies/{id}', { params: { path: { id: String(id) } } })),
  })
}

export function useCreateStudy() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'StudyRequest'>) =>
      take<Study>(api.POST('/api/studies', { body, headers: { 'Idempotency-Key': idempotencyKey() } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['studies'] }),
  })
}

export function useDeleteStudy() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: number) => take(api.DELETE('/api/studies/{id}', { params: { path: { id: String(id) } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['studies'] }),
  })
}

export type DeletedStudy = View<'DeletedStudyView'>

export function useDeletedStudies() {
  return useQuery({ queryKey: ['studies', 'deleted'], queryFn: () => take<DeletedStudy[]>(api.GET('/api/studies/deleted')) })
}

export function useBringBack() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: number) => take(api.POST('/api/studies/{id}/return', { params: { path: { id: String(id) } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['studies'] }),
  })
}

export function useChooseTarget(study: Study | undefined) {
  const queries = useQueryClient()
  return useMutation({
    // `over` names the version that is replaced knowingly.
    mutationFn: ({ over, ...body }: View<'TargetRequest'> & { over?: number }) => {
      if (!study) throw new Error('The study is not read yet.')
      return take<Study>(
        api.PUT('/api/studies/{id}/target', {
          params: { path: { id: String(study.id) }, header: { 'If-Match': String(over ?? study.version) } },
          body,
        }),
      )
    },
    onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'session' }),
  })
}
