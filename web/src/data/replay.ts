import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ApiError, api, take, type View } from '../api/client'

export type Replay = View<'ReplayView'>

const id = (n: number) => ({ params: { path: { id: String(n) } } })

/** How far a study has come that follows a file; null where it follows none. */
export function useReplay(studyId: number) {
  return useQuery({
    queryKey: ['replay', studyId],
    queryFn: () =>
      take<Replay>(api.GET('/api/studies/{id}/replay', id(studyId))).catch((e: unknown) => {
        if (e instanceof ApiError && e.status === 404) return null
        throw e
      }),
  })
}

/** All is begun that can be by now; with a file the study follows that one from now on. */
export function useGoOn(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (file: string) => take<Replay>(api.POST('/api/studies/{id}/replay', { ...id(studyId), body: { file } })),
    onSuccess: () => queries.invalidateQueries(),
  })
}

/** A study of its own, begun from the file of another. */
export function useBeginAgain() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (file: string) => take<View<'ReplayBegunView'>>(api.POST('/api/studies/replay', { body: { file } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['studies'] }),
  })
}
