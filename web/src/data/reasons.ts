import { number, share } from '../ui/format'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type Reasons = View<'ReasonsView'>
/** A record of the study's own table, or of a batch; 0 is one from scratch. */
export type Source = { trialId: number } | { scoringId: number }

export function reasonsQuery(source: Source, number: number) {
  return {
    queryKey: ['reasons', source, number],
    queryFn: () =>
      'scoringId' in source
        ? take<Reasons>(
            api.GET('/api/scorings/{id}/reasons/{number}', { params: { path: { id: String(source.scoringId), number: String(number) } } }),
          )
        : take<Reasons>(
            api.GET('/api/trials/{id}/reasons/{number}', { params: { path: { id: String(source.trialId), number: String(number) } } }),
          ),
    retry: false,
  }
}

/** Reasons for a record of the study's own table, or of a batch. */
export function useReasons(source: Source | null, number: number) {
  return useQuery({
    ...reasonsQuery(source ?? { trialId: 0 }, number),
    enabled: source !== null,
    placeholderData: (before: Reasons | undefined) => before,
  })
}

export type Changes = Record<string, string | null>
export type Imagined = View<'ImagineView'>

/** The record as it came and with other cells. */
export function useImagined(source: Source | null, record: number, changes: Changes) {
  return useQuery({
    queryKey: ['reasons', 'imagined', source, record, changes],
    enabled: source !== null,
    queryFn: () => {
      const body = { changes }
      return source && 'scoringId' in source
        ? take<Imagined>(
            api.POST('/api/scorings/{id}/reasons/{number}/imagine', {
              params: { path: { id: String(source.scoringId), number: String(record) } },
              body,
            }),
          )
        : take<Imagined>(
            api.POST('/api/trials/{id}/reasons/{number}/imagine', {
              params: { path: { id: String(source?.trialId), number: String(record) } },
              body,
            }),
          )
    },
    placeholderData: (before) => before,
    retry: false,
  })
}

export type ReachAsked = View<'ReachRequest'>
export type Reach = View<'ReachView'>

/** Changes of the record that reach a wanted answer. */
export function useReach(source: Source, record: number) {
  return useMutation({
    mutationFn: (body: ReachAsked) =>
      'scoringId' in source
        ? take<Reach>(
            api.POST('/api/scorings/{id}/reasons/{number}/reach', {
              params: { path: { id: String(source.scoringId), number: String(record) } },
              body,
            }),
          )
        : take<Reach>(
            api.POST('/api/trials/{id}/reasons/{number}/reach', {
              params: { path: { id: String(source.trialId), number: String(record) } },
              body,
            }),
          ),
  })
}

export function useLocal(trialId: number | null, record: number) {
  return useQuery({
    queryKey: ['reasons', 'local', trialId, record],
    enabled: trialId !== null,
    queryFn: () =>
      take<View<'LocalView'>>(
        api.GET('/api/trials/{id}/reasons/{number}/local', { params: { path: { id: String(trialId), number: String(record) } } }),
      ),
    retry: false,
  })
}

export type Matters = View<'MattersView'>
export type MatterLine = Matters['columns'][number]
export type Effect = View<'ColumnEffectView'>
const ofClass = (name: string | null) => (name === null ? {} : { class: name })

export function useMatters(trialId: number | null, name: string | null) {
  return useQuery({
    queryKey: ['reasons', 'matters', trialId, name],
    enabled: trialId !== null,
    queryFn: () => take<Matters>(api.GET('/api/trials/{id}/matters', { params: { path: { id: String(trialId) }, query: ofClass(name) } })),
    placeholderData: (before) => before,
    refetchInterval: (query) => (query.state.data?.pending ? 1500 : false),
    retry: false,
  })
}

/** Has a worker look at what matters. */
export function useLook(trialId: number | null, name: string | null) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () =>
      take<View<'JobView'>>(api.POST('/api/trials/{id}/matters', { params: { path: { id: String(trialId) }, query: ofClass(name) } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['jobs'] }),
  })
}

export type Shuffled = View<'ShuffledView'>

/** What another figure loses when columns are shuffled, or after more shuffles; and columns that go together, as one. */
export function useShuffled(trialId: number | null, by: string, repeats: number) {
  return useQuery({
    queryKey: ['reasons', 'shuffled', trialId, by, repeats],
    enabled: trialId !== null,
    queryFn: () =>
      take<Shuffled>(api.GET('/api/trials/{id}/shuffled', { params: { path: { id: String(trialId) }, query: { by, repeats } } })),
    refetchInterval: (query) => (query.state.data?.jobId != null ? 1500 : false),
    retry: false,
  })
}

export function useShuffle(trialId: number | null, by: string, repeats: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () =>
      take<View<'JobView'>>(api.POST('/api/trials/{id}/shuffled', { params: { path: { id: String(trialId) }, query: { by, repeats } } })),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'jobs' || q.queryKey[1] === 'shuffled' }),
  })
}

/** How much any two columns seem to do together by chance. */
export function useClearPairs(trialId: number | null, name: string | null) {
  return useQuery({
    queryKey: ['reasons', 'clear pairs', trialId, name],
    enabled: trialId !== null,
    queryFn: () =>
      take<View<'ClearPairsView'>>(
        api.GET('/api/trials/{id}/pairs/clear', { params: { path: { id: String(trialId) }, query: ofClass(name) } }),
      ),
    refetchInterval: (query) => (query.state.data?.jobId != null ? 1500 : false),
    retry: false,
  })
}

export function useFindClear(trialId: number | null, name: string | null) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () =>
      take<View<'JobView'>>(api.POST('/api/trials/{id}/pairs/clear', { params: { path: { id: String(trialId) }, query: ofClass(name) } })),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'jobs' || q.queryKey[1] === 'clear pairs' }),
  })
}

export function useEffectOf(trialId: number | null, column: string | null, name: string | null, records: string) {
  return useQuery({
    queryKey: ['reasons', 'effect', trialId, column, name, records],
    enabled: trialId !== null && column !== null,
    queryFn: () =>
      take<Effect>(
        api.GET('/api/trials/{id}/effect', {
          params: { path: { id: String(trialId) }, query: { column: column ?? '', records, ...ofClass(name) } },
        }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
}

/** What the words of a text do to answers. */
export function useWords(trialId: number | null, column: string | null, name: string | null) {
  return useQuery({
    queryKey: ['reasons', 'words', trialId, column, name],
    enabled: trialId !== null && column !== null,
    queryFn: () =>
      take<View<'WordsView'>>(
        api.GET('/api/trials/{id}/effect/words', {
          params: { path: { id: String(trialId) }, query: { column: column ?? '', ...ofClass(name) } },
        }),
      ),
    retry: false,
  })
}

export function useEffectMap(trialId: number | null, x: string | null, y: string | null, name: string | null) {
  return useQuery({
    queryKey: ['reasons', 'map', trialId, x, y, name],
    enabled: trialId !== null && x !== null && y !== null && x !== y,
    queryFn: () =>
      take<View<'TwoEffectsView'>>(
        api.GET('/api/trials/{id}/effect/two', {
          params: { path: { id: String(trialId) }, query: { x: x ?? '', y: y ?? '', ...ofClass(name) } },
        }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
}

export function usePairs(trialId: number | null, name: string | null) {
  return useQuery({
    queryKey: ['reasons', 'pairs', trialId, name],
    enabled: trialId !== null,
    queryFn: () =>
      take<View<'PairView'>[]>(api.GET('/api/trials/{id}/pairs', { params: { path: { id: String(trialId) }, query: ofClass(name) } })),
    retry: false,
  })
}

export function useStandIns(trialId: number | null, name: string | null) {
  return useQuery({
    queryKey: ['reasons', 'stand-ins', trialId, name],
    enabled: trialId !== null,
    queryFn: () =>
      take<View<'StandInView'>[]>(
        api.GET('/api/trials/{id}/stand-ins', { params: { path: { id: String(trialId) }, query: ofClass(name) } }),
      ),
    retry: false,
  })
}

export type TreeOf = View<'TreeView'>
export type Leaf = View<'TreeLeaf'>
export type Branch = View<'TreeBranch'>

export function useTree(trialId: number | null) {
  return useQuery({
    queryKey: ['tree', trialId],
    enabled: trialId !== null,
    queryFn: () => take<TreeOf>(api.GET('/api/trials/{id}/tree', { params: { path: { id: String(trialId) } } })),
  })
}

/** A stand-in that is a tree, smallest first. */
export function useStandInTree(trialId: number | null, size: number | null, name: string | null) {
  return useQuery({
    queryKey: ['tree', trialId, 'stand-in', size, name],
    enabled: trialId !== null && size !== null,
    queryFn: () =>
      take<TreeOf>(
        api.GET('/api/trials/{id}/stand-ins/tree', {
          params: { path: { id: String(trialId) }, query: { size: size ?? 0, ...ofClass(name) } },
        }),
      ),
    retry: false,
  })
}

/** The open records that end in a leaf. */
export function useLeaf(trialId: number, node: number | null) {
  return useQuery({
    queryKey: ['tree', trialId, 'leaf', node],
    enabled: node !== null,
    queryFn: () =>
      take<View<'LeafRecordsView'>>(
        api.GET('/api/trials/{id}/tree/leaf', { params: { path: { id: String(trialId) }, query: { node: node ?? 0 } } }),
      ),
    retry: false,
  })
}

/** A share in percent, or a mean, as a leaf has it. */
/** As what the values of a tree are told: those that imitate a chance are chances. */
export const toldAs = (data: TreeOf) => (data.chances ? 'chance' : data.task)

export function valueOf(task: string, value: number | null | undefined, digits = 1): string {
  return task === 'number' ? number(value, 3) : share(value, digits)
}
