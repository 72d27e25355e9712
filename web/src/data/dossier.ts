import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type Dossier = View<'DossierView'>

const id = (n: number) => ({ params: { path: { id: String(n) } } })

export function useDossier(studyId: number) {
  return useQuery({
    queryKey: ['dossier', studyId],
    queryFn: () => take<Dossier>(api.GET('/api/studies/{id}/dossier', id(studyId))),
  })
}

/** Which sections are left out and what is said beside them; all of it at once. */
export function useChangeDossier(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'DossierRequest'>) => take<Dossier>(api.PUT('/api/studies/{id}/dossier', { ...id(studyId), body })),
    onSuccess: (dossier) => queries.setQueryData(['dossier', studyId], dossier),
  })
}
