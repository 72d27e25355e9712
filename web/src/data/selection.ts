import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type NamedSelection = View<'NamedSelectionView'>

export function useSelections(studyId: number) {
  return useQuery({
    queryKey: ['selections', studyId],
    queryFn: () => take<NamedSelection[]>(api.GET('/api/studies/{id}/selections', { params: { path: { id: String(studyId) } } })),
  })
}

export function useNameSelection(studyId: number) {
  const queries = useQueryClient()
  const again = () => queries.invalidateQueries({ queryKey: ['selections', studyId] })
  return {
    keep: useMutation({
      mutationFn: (body: View<'NamedSelectionRequest'>) =>
        take<NamedSelection>(api.POST('/api/studies/{id}/selections', { params: { path: { id: String(studyId) } }, body })),
      onSuccess: again,
    }),
    remove: useMutation({
      mutationFn: async (id: number) => {
        await take(api.DELETE('/api/selections/{id}', { params: { path: { id: String(id) } } }))
      },
      onSuccess: again,
    }),
  }
}
