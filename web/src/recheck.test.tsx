import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, describe, expect, it } from 'vitest'
import { button, clean, instead, open, request, says, standIn } from './harness'

standIn()

const bounds = (value: number, by = 0.04) => ({ value, low: value - by, high: value + by })
const figure = (name: string, says: string, more = { share: false, units: false }) => ({
  key: name,
  name,
  title: name,
  then: bounds(0.84),
  now: bounds(0.79),
  difference: bounds(-0.05),
  p: 0.03,
  decides: name === 'AUC',
  says,
  baseline: 0.5,
  more: true,
  ...more,
})
const column = (name: string, drift: object, holm: number) => ({
  column: name,
  holm,
  points: 0.014,
  moved: 0.02,
  drift: { kind: 'number', psi: 0.2, p: holm, psi_bins: [], missing_share_difference: 0, missing_training: 0, missing_newer: 0, ...drift },
})
const recheck = {
  id: 3,
  number: 1,
  state: 'done',
  verdict: 'wearing off',
  failure: null,
  trialId: 1,
  trialNumber: 1,
  learner: 'boosting',
  tableId: 5,
  tableName: 'visits_recent',
  rows: 900,
  by: 'visit_date',
  doneBy: 'Mara Kell',
  at: '2026-11-30T09:00:00+00:00',
  told: {
    verdict: 'wearing off',
    reasons: ['AUC fell from 0.843 to 0.791 (p = 0.03, adjusted).'],
    figures: [figure('AUC', 'worse'), figure('Caught', 'within noise', { share: true, units: false })],
    promise: { then: bounds(0.001), now: bounds(0.04, 0.02), change: bounds(0.039), p: 0.004 },
    visible: 0.06,
    matters: 0.1,
    rows_then: 1200,
    rows_now: 900,
    examined: 'sealed rows',
    answered: 900,
    outcomes: 900,
    calibration: { then: [{ chance: 0.2, rows: 600, came: bounds(0.2) }], now: [{ chance: 0.2, rows: 450, came: bounds(0.26) }] },
    columns: [
      column(
        'job_type',
        {
          kind: 'text',
          unseen_levels: ['heat pump'],
          psi_bins: [
            { bin: '(unseen)', training: 0, newer: 56, part: 0.2 },
            { bin: 'boiler', training: 900, newer: 844, part: 0 },
          ],
        },
        0.001,
      ),
      column('visit_date', { kind: 'date', mean_training: 20000, mean_newer: 20100 }, 0.001),
      column('travel_km', { mean_training: 11.4, mean_newer: 14.9 }, 0.6),
    ],
    periods: [{ label: '2026-03-02', rows: 200, figure: bounds(0.8), promised: 0.17, came: bounds(0.2) }],
    groups: [{ by: 'slot', groups: [{ label: '08-10', rows: 120, figure: bounds(0.7), promised: 0.2, came: bounds(0.31) }] }],
    remedies: [
      { key: 'leave', figure: bounds(0.767), promise: { then: bounds(0), now: bounds(0.04, 0.02), change: bounds(0.04), p: 0.01 } },
      { key: 'anew', figure: bounds(0.828), promise: { then: bounds(0), now: bounds(0.01, 0.02), change: bounds(0.01), p: 0.4 } },
    ],
    figure: 'AUC',
    event: 'yes',
    answers: { then: [], now: [] },
  },
}
const at = (body: unknown) => {
  instead['GET /api/studies/2/rechecks'] = { status: 200, body }
}

describe('a recheck', () => {
  beforeEach(() => at([recheck]))

  it('tells the verdict, its reasons, what moved and what would mend it', async () => {
    open('/study/2/decisions/recheck')
    await says('Wearing off: AUC fell from 0.843 to 0.791 (p = 0.03, adjusted).')
    await says('1 of 2 figures worse, each at p under 0.05')
    await says('Sealed, 1,200')
    await says('It says too little: 4.0 points')
    await says('job_type moved, and moves the answers most')
    await says('heat pump, new: 6.2%')
    await says('Fit it anew: AUC 0.828')
    await says('AUC by slot')
    await says('31.0')
    await says('4.0 points low')
    await says('as they should')
    expect(screen.getByText('wearing off', { selector: 'li' })).toHaveAttribute('aria-current', 'true')
    await clean()
    instead['POST /api/rechecks/3/anew'] = { status: 202, body: { id: 9, kind: 'trial', state: 'waiting' } }
    await userEvent.click(await button('Fit it anew: make it a trial'))
    await request('POST', /rechecks\/3\/anew$/)
    await says('recheck it here: it is told on the newest records alone')
  })

  it('sets the day to look again later, for a model that is in use', async () => {
    const approval = { id: 5, number: 2, trialId: recheck.trialId, again: '2026-12-31', withdrawn: null, later: [] }
    instead['GET /api/studies/2/approvals'] = { status: 200, body: [approval] }
    instead['POST /api/rechecks/3/later'] = { status: 200, body: { ...approval, again: '2027-03-31' } }
    open('/study/2/decisions/recheck')
    const day = await screen.findByLabelText(/^Approval 2 is to be looked at again on/)
    expect(await button('Set it')).toBeDisabled()
    await userEvent.type(day, '2027-03-31')
    await userEvent.click(await button('Set it'))
    expect((await request('POST', /rechecks\/3\/later$/)).body).toEqual({ again: '2027-03-31' })
    await says('It is to be looked at again on 31 Mar 2027.')
    await clean()
    at([{ ...recheck, verdict: 'no longer', told: { ...recheck.told, verdict: 'no longer' } }])
  })

  it('says what is under way and what failed', async () => {
    at([{ ...recheck, state: 'failed', verdict: '', failure: 'A worker ran out of memory.', told: {} }])
    open('/study/2/decisions/recheck')
    await says('It was not rechecked: A worker ran out of memory.')
    await clean()
  })

  it('tells what moved before any outcome is known', async () => {
    const deciles = [0, 0.1, 0.2, 0.3, 0.4, 0.55, 0.6, 0.7, 0.8, 0.9, 1]
    at([
      {
        ...recheck,
        verdict: 'too few to tell',
        told: {
          ...recheck.told,
          verdict: 'too few to tell',
          promise: null,
          outcomes: 0,
          calibration: { then: [], now: [] },
          periods: [],
          remedies: [],
          answers: { then: deciles, now: deciles },
        },
      },
    ])
    open('/study/2/decisions/recheck')
    await says('No outcome is known yet')
    await says('Half of the answers lie under 0.550 now')
    await says('With so few newer records with known outcomes none can be learned and measured.')
    expect(screen.queryByRole('button', { name: /make it a trial/ })).toBeNull()
  })

  it('asks which trial and which records', async () => {
    at([])
    instead['GET /api/studies/2/tables'] = { status: 200, body: [{ id: 77, name: 'visits_recent', state: 'ready', rows: 900 }] }
    const open1 = { status: 202, body: { id: 9, kind: 'recheck', state: 'waiting' } }
    for (const id of [1, 2, 3]) instead[`POST /api/trials/${id}/rechecks`] = open1
    open('/study/2/decisions/recheck')
    await says('Does it still hold?')
    await userEvent.click(await button('Recheck'))
    const { body } = await request('POST', /rechecks$/)
    expect(body).toMatchObject({ groups: [] })
    expect((body as { tableId: number }).tableId).toBe(77)
  })
})
