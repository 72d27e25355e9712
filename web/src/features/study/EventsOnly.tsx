import { Button } from '@mui/material'
import { Link } from 'react-router'
import { Head } from '../../ui/Head'
import { ofTask } from '../../ui/measure'
import type { Study } from './api'

/** A station that goes by the chance of an event, in a study that predicts something else. */
export function EventsOnly({ study, title, what }: { study: Study; title: string; what: string }) {
  const tree =
    title === 'Reasons' ? ofTask(study.trials, study.task).find((t) => t.state === 'done' && t.title === 'Decision tree') : undefined
  return (
    <>
      <Head title={title} say={`This study predicts ${study.task === 'number' ? 'a number' : 'one of several classes'}.`} />
      <div className="sheet fit">
        <div className="empty">
          <h2>This station is for events so far</h2>
          <p>
            {what} What {study.target} goes by, and how far predictions are off, stands on each trial’s page.
          </p>
          <Button variant="contained" color="primary" component={Link} to={`/study/${study.id}/judgment`}>
            To the Standings
          </Button>
          {tree && (
            <Button component={Link} to={`/study/${study.id}/reasons/tree?trial=${tree.id}`} style={{ marginLeft: 8 }}>
              Read the tree of trial {tree.number}
            </Button>
          )}
        </div>
      </div>
    </>
  )
}
