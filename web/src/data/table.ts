import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ApiError, api, errorOf, idempotencyKey, take, type View } from '../api/client'

export type TableInfo = View<'TableView'>
export type Column = View<'ColumnView'>
export type ColumnDetail = View<'ColumnDetailView'>
export type Change = View<'ColumnRequest'>
export type Reading = View<'ReadingView'>

/** A table by its name; a later edition says which. */
export const titled = (t: { name: string; edition: number }) => (t.edition > 1 ? `${t.name}, edition ${t.edition}` : t.name)

export function useTables(studyId: number) {
  return useQuery({
    queryKey: ['tables', studyId],
    queryFn: () => take<TableInfo[]>(api.GET('/api/studies/{id}/tables', { params: { path: { id: String(studyId) } } })),
  })
}

export function useRegister(id: number | null | undefined) {
  return useQuery({
    queryKey: ['register', id],
    enabled: id != null,
    queryFn: () => take<TableInfo>(api.GET('/api/tables/{id}', { params: { path: { id: String(id) } } })),
    refetchInterval: (q) => (q.state.data?.state === 'importing' ? 1000 : false),
  })
}

export function useColumn(id: number | null, bins: number | null = null, log = false) {
  return useQuery({
    queryKey: ['column', id, bins, log],
    enabled: id !== null,
    queryFn: () =>
      take<ColumnDetail>(
        api.GET('/api/columns/{id}', {
          params: { path: { id: String(id) }, query: { ...(bins === null ? {} : { bins }), ...(log ? { log } : {}) } },
        }),
      ),
    placeholderData: (before) => (before?.column.id === id ? before : undefined),
  })
}

export function useColumnMore(id: number) {
  return useQuery({
    queryKey: ['column', id, 'more'],
    queryFn: () => take<View<'ColumnMoreView'>>(api.GET('/api/columns/{id}/more', { params: { path: { id: String(id) } } })),
  })
}

export type RowQuery = {
  offset: number
  limit: number
  descending: boolean
  sort?: string
  where?: string
  any?: boolean
  search?: string
  only?: string
  columns?: string
}

export function useRows(tableId: number, query: RowQuery) {
  return useQuery({
    queryKey: ['rows', tableId, query],
    queryFn: () => take<View<'RowsView'>>(api.GET('/api/tables/{id}/rows', { params: { path: { id: String(tableId) }, query } })),
    placeholderData: (before) => before,
    retry: false,
  })
}

export function useChangeColumn() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ column, change }: { column: Column; change: Change }) =>
      take<Column>(
        api.PATCH('/api/columns/{id}', {
          params: { path: { id: String(column.id) }, header: { 'If-Match': String(column.version) } },
          body: change,
        }),
      ),
    onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'session' && q.queryKey[0] !== 'jobs' }),
  })
}

export type ColumnsChange = View<'ColumnsRequest'>

/** Many columns of a table at once; with preview it only says what would happen. */
export function useChangeColumns(tableId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: ColumnsChange) =>
      take<View<'ColumnsView'>>(api.POST('/api/tables/{id}/columns', { params: { path: { id: String(tableId) } }, body })),
    onSuccess: (view) =>
      view.applied && queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'session' && q.queryKey[0] !== 'jobs' }),
  })
}

/** Sends a file in pieces of 8 MiB; what has arrived is kept, so a broken line goes on where it stopped. */
export async function upload(file: File, progress: (share: number) => void): Promise<number> {
  const begun = await take<View<'UploadView'>>(api.POST('/api/uploads', { body: { fileName: file.name, size: file.size } }))
  let offset = begun.received
  let failures = 0
  while (offset < file.size) {
    const piece = await file.slice(offset, offset + begun.pieceSize).arrayBuffer()
    const checksum = [...new Uint8Array(await crypto.subtle.digest('SHA-256', piece))].map((b) => b.toString(16).padStart(2, '0')).join('')
    try {
      const response = await fetch(`/api/uploads/${begun.id}/pieces?offset=${offset}`, {
        method: 'PUT',
        body: piece,
        headers: { 'Content-Type': 'application/octet-stream', 'Piece-Checksum': checksum },
      })
      const body: unknown = await response.json()
      if (!response.ok && response.status !== 409) throw errorOf(response.status, body)
      offset = (body as { received: number }).received
      failures = 0
    } catch (error) {
      if (++failures > 4 || !(error instanceof TypeError)) throw error
      await new Promise((r) => setTimeout(r, 500 * failures))
      offset = (await take<View<'UploadView'>>(api.GET('/api/uploads/{id}', { params: { path: { id: String(begun.id) } } }))).received
    }
    progress(offset / file.size)
  }
  return begun.id
}

export type Corrections = {
  encoding?: string
  delimiter?: string
  quote?: string
  decimal?: string
  thousands?: string
  header?: boolean
  skip?: number
  comment?: string
  most?: number
  missing?: string
  dates?: string
  part?: string
}

export function useReading(uploadId: number | null, corrections: Corrections) {
  return useQuery({
    queryKey: ['reading', uploadId, corrections],
    enabled: uploadId !== null,
    queryFn: () => take<Reading>(api.GET('/api/uploads/{id}/reading', { params: { path: { id: String(uploadId) }, query: corrections } })),
    placeholderData: (before) => before,
    // Others may be looking into their files just now.
    retry: (failures: number, error: Error) => error instanceof ApiError && error.status === 503 && failures < 10,
    retryDelay: 1500,
  })
}

export type Example = View<'Example'>

export function useExamples() {
  return useQuery({ queryKey: ['examples'], queryFn: () => take<Example[]>(api.GET('/api/examples')), staleTime: Infinity })
}

/** Puts an example where an upload would lie; answers with the upload. */
export function useTakeExample() {
  return useMutation({
    mutationFn: (name: string) => take<View<'UploadView'>>(api.POST('/api/examples/{name}', { params: { path: { name } } })),
  })
}

export function useImport(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'ImportRequest'>) =>
      take<View<'JobView'>>(
        api.POST('/api/studies/{id}/tables', {
          params: { path: { id: String(studyId) } },
          body,
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['jobs', 'tables', 'study'].includes(String(q.queryKey[0])) }),
  })
}

/** Files that an import reads. */
export const readable = '.csv,.tsv,.txt,.jsonl,.ndjson,.xlsx,.ods,.sqlite,.sqlite3,.db'
