import { Button } from '@mui/material'
import { useState } from 'react'
import { Facts } from './Facts'
import { Head } from './Head'
import { IntervalMark } from './IntervalMark'
import { Ledger } from './Ledger'
import { Note } from './Note'
import { Shape } from './Shape'
import { Slot } from './Slot'
import { Thread } from './Thread'
import { Loading, Trouble } from './Trouble'

/** Every part in every state, to look at while building. */
export function Parts() {
  const [word, setWord] = useState('median')
  const [line, setLine] = useState<string | null>('b')
  const states = ['done', 'now', 'waits', 'todo'] as const
  return (
    <>
      <Head title="Parts" small="each in its states" say={<b>What screens are made of.</b>}>
        <Button>Plain</Button>
        <Button disabled>Disabled</Button>
        <Button size="small">Slim</Button>
        <Button variant="contained" color="primary">
          Main
        </Button>
      </Head>
      <div className="sheet stack">
        <section className="pad">
          <h2 className="fig-title">Interval marks</h2>
          {(['ink', 'verdigris', 'brass', 'soft'] as const).map((tone) => (
            <IntervalMark key={tone} tone={tone} value={0.7} low={0.6} high={0.78} scale={[0.5, 1]} width={160} reference={0.62} />
          ))}
          <IntervalMark value={null} scale={[0, 1]} />
        </section>
        <section className="pad">
          <h2 className="fig-title">Shapes</h2>
          <Shape steps bars={[1, 5, 9, 6, 3, 2, 1, 1].map((count) => ({ count }))} /> <Shape bars={[9, 5, 3].map((count) => ({ count }))} />{' '}
          <Shape band bars={[3, 9].map((count) => ({ count }))} /> <Shape bars={[]} />
        </section>
        <section className="pad">
          <h2 className="fig-title">A word in a sentence</h2>
          <p className="sentence">
            Fill with the{' '}
            <Slot
              label="Method"
              value={word}
              choices={[
                { value: 'median', label: 'median', effect: 'the middle value' },
                { value: 'most frequent', label: 'most frequent value' },
              ]}
              onChange={setWord}
            />{' '}
            or <Slot label="Waits" wait value="choose" choices={[{ value: 'choose', label: 'choose…' }]} onChange={() => undefined} />.
          </p>
        </section>
        <section className="pad">
          <h2 className="fig-title">Notes, troubles, waiting</h2>
          <Note title="boiler_class is a code" remedies={<Button size="small">Make it a category</Button>}>
            Seven values from 11 to 40; a mean of 16.7 says nothing.
          </Note>
          <Trouble error={new Error('The disk is full. The pieces before this one were kept.')} onRetry={() => undefined} />
          <Loading what="the register" />
          <Facts
            facts={[
              ['missing', '1,175 (19.6%)'],
              ['median', '10'],
            ]}
          />
        </section>
        <section className="pad" style={{ display: 'flex', height: 200 }}>
          <Ledger
            label="Example"
            rows={[
              { id: 'a', n: 1 },
              { id: 'b', n: 1200 },
              { id: 'a name that is much too long for its column and is cut', n: 3 },
            ]}
            rowKey={(r) => r.id}
            selected={line}
            onSelect={(r) => setLine(r.id)}
            lineNumber={(_, i) => i + 1}
            columns={[
              { key: 'id', title: 'Name', width: 220, cell: (r) => r.id },
              { key: 'n', title: 'Records', number: true, cell: (r) => r.n.toLocaleString('en-US') },
            ]}
          />
        </section>
        <section style={{ height: 340, width: 208, position: 'relative' }}>
          <Thread
            stations={states.map((state, i) => ({
              number: i + 1,
              label: state,
              to: '',
              figures: ['6,000 × 25'],
              waits: state === 'waits' ? 'waits' : undefined,
              state,
              share: [1, 0.62, 0.2, null][i]!,
              stale: i === 1,
            }))}
            renderLink={(_, className, content) => (
              <a href="#parts" className={className}>
                {content}
              </a>
            )}
          />
        </section>
      </div>
    </>
  )
}
