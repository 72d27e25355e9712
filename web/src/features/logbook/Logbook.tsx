import { useQuery } from '@tanstack/react-query'
import { api, take, type View } from '../../api/client'
import { date, time, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudyId } from '../../data/study'

type Entry = View<'LogEntryView'>

export function Logbook() {
  const id = useStudyId()
  const log = useQuery({
    queryKey: ['logbook', id],
    queryFn: () =>
      take<View<'LogbookView'>>(api.GET('/api/studies/{id}/logbook', { params: { path: { id: String(id) }, query: { limit: 500 } } })),
  })
  return (
    <>
      <Head title="Logbook" small="everything that was done, newest first" say={log.data && <b>{whole(log.data.total)} entries.</b>} />
      <div className="sheet fit stack">
        {log.isPending && <Loading what="the logbook" />}
        <Trouble error={log.error} onRetry={() => void log.refetch()} />
        {log.data && (
          <Ledger<Entry>
            label="Logbook"
            rows={log.data.entries}
            rowKey={(e) => e.id}
            columns={[
              { key: 'at', title: 'When', width: 150, cell: (e) => `${date(e.at)}, ${time(e.at)}` },
              { key: 'who', title: 'Who', width: 120, cell: (e) => e.who },
              { key: 'station', title: 'Station', width: 110, cell: (e) => <span className="soft">{e.station}</span> },
              {
                key: 'sentence',
                title: 'What was done',
                cell: (e) => (
                  <span title={e.sentence} style={{ whiteSpace: 'normal', display: 'block', padding: '3px 0' }}>
                    {e.sentence}
                  </span>
                ),
              },
            ]}
          />
        )}
      </div>
    </>
  )
}
