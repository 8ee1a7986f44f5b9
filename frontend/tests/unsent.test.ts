import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import type { Waiting } from '@/api/outbox'
import { sheetOf } from '@/features/job/stages'
import { asKnownHere, benchAsKnownHere, fallsHere, type Unsent, unsentOf } from '@/api/unsent'

const JOB = sheetOf('j1', 'discharge').path
const write = (url: string, body: object = {}, method = 'POST', about = JOB): Waiting => ({
  member: 'm',
  key: url + JSON.stringify(body),
  method,
  url,
  body: JSON.stringify(body),
  at: '2026-11-30T10:00:00Z',
  about,
})
const item = (position_id: string, state: Schemas['ChargeState'], lapses_at: string | null = null) =>
  ({
    position_id,
    name: position_id.toUpperCase(),
    state,
    caution: '',
    sentence: '',
    at: null,
    lapses_at,
  }) as Schemas['ChargeItem']
const states = (writes: Waiting[], items = [item('c1', 'kept_shorted'), item('c2', 'proved')], now = 0) =>
  asKnownHere(items, 'j1', unsentOf(writes), now).map((one) => one.state)

describe('what was noted about a charge and not sent yet', () => {
  it('is in force at once where it says that there is a voltage', () => {
    expect(states([write('/api/positions/c1/charge', { state: 'energised' })])).toEqual(['energised', 'proved'])
    expect(states([write('/api/jobs/j1/powerup/steps')])).toEqual(['energised', 'energised'])
    expect(states([write('/api/jobs/j1/soak')])).toEqual(['energised', 'energised'])
    expect(states([write('/api/positions/c2/forming')])).toEqual(['kept_shorted', 'energised'])
    const [first] = asKnownHere(
      [item('c1', 'proved')],
      'j1',
      unsentOf([write('/api/positions/c1/charge', { state: 'energised' })]),
      0,
    )
    expect(first).toMatchObject({ sentence: 'not sent yet', at: '2026-11-30T10:00:00Z', lapses_at: null })
    expect(first?.caution).toContain('no hand near it')
  })
  it('takes away what is known where it says anything else about it, and never makes it better', () => {
    for (const path of ['charge', 'fall', 'proof', 'surroundings', 'something-new'])
      expect(states([write(`/api/positions/c1/${path}`, { state: 'kept_shorted' })])).toEqual(['unknown', 'proved'])
    for (const path of ['proofs', 'checks', 'return', 'soak/end', 'record/7/struck', 'something-new'])
      expect(states([write(`/api/jobs/j1/${path}`)])).toEqual(['unknown', 'unknown'])
    expect(states([write('/api/positions/c1', {}, 'PUT')])).toEqual(['unknown', 'proved'])
    for (const quantity of ['insulation', 'leakage'])
      expect(states([write('/api/positions/c2/readings', { quantity })])).toEqual(['kept_shorted', 'unknown'])
    for (const worse of ['energised', 'rising', 'revoked'] as const)
      expect(states([write('/api/positions/c1/proof')], [item('c1', worse)])).toEqual([worse])
  })
  it('readings of a fall say what they were found to say here, and nothing is known until then', () => {
    const fall = [write('/api/positions/c1/fall', { rows: '0, 20' })]
    const emptying = [item('c1', 'emptying')]
    expect(states(fall, emptying)).toEqual(['unknown'])
    fallsHere.value = { c1: { says: 'falling', logs: 1 } }
    expect(states(fall, emptying)).toEqual(['emptying'])
    expect(states([...fall, write('/api/positions/c1/fall', { rows: '1, 325' })], emptying)).toEqual(['unknown'])
    fallsHere.value = { c1: { says: 'rising', logs: 1 } }
    expect(states(fall, emptying)).toEqual(['rising'])
    expect(states(fall, [item('c1', 'energised')])).toEqual(['rising'])
    expect(states([...fall, write('/api/positions/c1/charge', { state: 'energised' })], emptying)).toEqual([
      'energised',
    ])
    expect(states([], emptying)).toEqual(['emptying'])
    fallsHere.value = {}
  })
  it('the worst of several counts, in whatever order they wait', () => {
    const two = [write('/api/positions/c1/charge', { state: 'energised' }), write('/api/positions/c1/proof')]
    expect(states(two)).toEqual(['energised', 'proved'])
    expect(states(two.reverse())).toEqual(['energised', 'proved'])
  })
  it('leaves the line where it speaks of something else, or of another job', () => {
    for (const path of ['signs', 'verdict', 'choice', 'fitting', 'take-out', 'readings'])
      expect(states([write(`/api/positions/c1/${path}`, { quantity: 'capacitance' })])).toEqual([
        'kept_shorted',
        'proved',
      ])
    for (const path of ['found', 'photos', 'beside', 'board', 'quote', 'powerup'])
      expect(states([write(`/api/jobs/j1/${path}`, {}, ['quote', 'powerup'].includes(path) ? 'PUT' : 'POST')])).toEqual(
        ['kept_shorted', 'proved'],
      )
    expect(states([write('/api/jobs/j2/powerup/steps')])).toEqual(['kept_shorted', 'proved'])
  })
  it('what nobody can read is taken for a charge', () => {
    const broken = { ...write('/api/positions/c1/charge'), body: '{' }
    expect(states([broken])).toEqual(['unknown', 'proved'])
  })
})

describe('a proof on a page that gets no answer', () => {
  it('lapses with its time', () => {
    const proved = item('c1', 'proved', '2026-11-30T10:30:00Z')
    for (const [now, state] of [
      ['10:29:59', 'proved'],
      ['10:30:00', 'lapsed'],
      ['11:00:00', 'lapsed'],
    ] as const)
      expect(states([], [proved], Date.parse(`2026-11-30T${now}Z`))).toEqual([state])
  })
})

describe('the Bench', () => {
  const row = {
    job: { id: 'j1' },
    gravest: item('c1', 'proved'),
    may_hurt: false,
    may_kill: false,
  } as Schemas['BenchJob']
  const shown = (unsent: Unsent[]) => benchAsKnownHere([row], unsent, 0)[0]
  it('says what is not sent of any place of a job', () => {
    const energised = shown(unsentOf([write('/api/positions/c9/charge', { state: 'energised' })]))
    expect(energised).toMatchObject({ may_hurt: true, may_kill: true, gravest: { state: 'energised' } })
    const other = shown(
      unsentOf([write('/api/positions/c9/charge', { state: 'energised' }, 'POST', sheetOf('j2', 'discharge').path)]),
    )
    expect(other).toMatchObject({ may_hurt: false, may_kill: false, gravest: { state: 'proved' } })
    expect(shown(unsentOf([write('/api/positions/c9/proof')]))).toMatchObject({
      may_hurt: true,
      may_kill: false,
      gravest: { state: 'unknown' },
    })
  })
})
