import { useLocalStorage, useNow } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import type { Schemas } from './client'
import { writtenWithin } from './device'
import { doubted } from './device/ground'
import { ahead, cut } from './offline'
import { everybodys, underWay, type Waiting } from './outbox'

type Item = Schemas['ChargeItem']
/** What an unsent write says about a charge: that there is a voltage, or only that what the server knows may be so no more. */
export interface Unsent {
  says: 'energised' | 'rising' | 'unknown'
  /** The position or the job it was written to, and the page it was written on, which names its job. */
  to: string
  about: string
  at: string
  key: string
}

/** What of a position or a job says nothing about a charge; whatever is not named here may. */
const ELSE =
  /^POST (positions\/[^/]+\/(signs|verdict|verdict\/kept|batch|override|take-out|choice(\/proposed)?|order|fitting)|jobs\/[^/]+\/(found|photos|beside|hand-over|board|bill|bill\/preview|walk|deviations(\/proposed)?|return\/proposed|report|job-file|accept|positions))$|^PUT jobs\/[^/]+(\/(quote|powerup))?$/
const POWERED = /^POST (jobs\/[^/]+\/(powerup\/steps|soak)|positions\/[^/]+\/forming)$/
const READING = /^POST positions\/[^/]+\/readings$/
const CHARGE = /^POST positions\/[^/]+\/charge$/
const FALL = /^POST positions\/([^/]+)\/fall$/
const CHARGING = ['insulation', 'leakage'] // its tester lays volts on the part
const WORSE = ['energised', 'rising', 'revoked'] // than unknown
const GRAVE: Unsent['says'][] = ['energised', 'rising', 'unknown']
const SAID = 'not sent yet'
const CAUTION = {
  rising: 'Its voltage rose while it was emptied: something feeds it. Stop. That is not sent yet.',
  energised: 'It is energised: no meter on it, no hand near it. That is not sent yet.',
  unknown: 'What was noted last is not sent yet: take it for charged, and prove it.',
  lapsed: 'Its proof has lapsed: prove it again.',
}

/** What the unsent readings of a fall were found to say here, by their place, and how many logs of them were read for it. */
export interface FoundHere {
  says: 'rising' | 'falling'
  logs: number
}
export const fallsHere = useLocalStorage<Record<string, FoundHere>>('falls here', {})

function saysOf(one: Waiting, writes: Waiting[]): Unsent['says'] | '' {
  const what = `${one.method} ${one.url.replace('/api/', '')}`
  if (!/^\w+ (positions|jobs)\//.test(what) || ELSE.test(what)) return ''
  if (POWERED.test(what)) return 'energised'
  const fall = FALL.exec(what)
  if (fall) {
    const found = fallsHere.value[fall[1] ?? '']
    if (found?.says === 'rising') return 'rising'
    const logs = writes.filter((other) => other.url === one.url).length
    return found?.logs === logs ? '' : 'unknown' // while all of it falls it is being emptied, as was noted
  }
  let body: { state?: string; quantity?: string }
  try {
    body = JSON.parse(one.body || '{}') as typeof body
  } catch {
    return 'unknown'
  }
  if (CHARGE.test(what) && body.state === 'energised') return 'energised'
  return READING.test(what) && !CHARGING.includes(body.quantity ?? '') ? '' : 'unknown'
}

/** What of the unsent writes speaks of a charge, those that say there is one first. */
export function unsentOf(writes: Waiting[]): Unsent[] {
  const found = writes.flatMap((one) => {
    const says = saysOf(one, writes)
    return says ? [{ says, to: one.url.split('/')[3] ?? '', about: one.about ?? '', at: one.at, key: one.key }] : []
  })
  return found.sort((a, b) => GRAVE.indexOf(a.says) - GRAVE.indexOf(b.says))
}

function known(item: Item, unsent: Unsent | undefined, now: number): Item {
  if (unsent && (unsent.says !== 'unknown' || !WORSE.includes(item.state)))
    return {
      ...item,
      state: unsent.says,
      caution: CAUTION[unsent.says],
      sentence: SAID,
      at: unsent.at,
      lapses_at: null,
    }
  if (item.state === 'proved' && Date.parse(item.lapses_at ?? '') <= now)
    return { ...item, state: 'lapsed', caution: CAUTION.lapsed }
  return item
}

/** What is not sent and an answer was not worked out with. */
export const notWithin = (answer: unknown, unsent: Unsent[]) => {
  const within = writtenWithin(answer)
  return unsent.filter((one) => !within.includes(one.key))
}

/** A job's charge line as it is known here: with what was not sent yet, and with proofs that lapsed while no answer came. */
export function asKnownHere(items: Item[], job: string, unsent: Unsent[], now: number): Item[] {
  return items.map((item) =>
    known(
      item,
      unsent.find((one) => one.to === item.position_id || one.to === job),
      now,
    ),
  )
}

/** The rows of the Bench likewise: what was not sent of any place of a job is told of the job. */
export function benchAsKnownHere(rows: Schemas['BenchJob'][], unsent: Unsent[], now: number): Schemas['BenchJob'][] {
  return rows.map((row) => {
    const mine = unsent.find((one) => one.to === row.job.id || one.about.split('/').includes(row.job.id))
    const gravest = row.gravest && known(row.gravest, mine, now)
    const doubted = gravest !== row.gravest
    return {
      ...row,
      gravest,
      may_hurt: row.may_hurt || doubted,
      may_kill: row.may_kill || ['energised', 'rising'].includes(gravest?.state ?? ''),
    }
  })
}

const OFTEN_MS = 2_000
const SOON_MS = 2_000 // a write that is answered in this time is answered before anybody reads what it leaves open
/** What speaks of a charge and was not sent yet, and the time of day, told anew as they change. */
export function useUnsent(): { unsent: ComputedRef<Unsent[]>; now: ComputedRef<number> } {
  const time = useNow({ interval: OFTEN_MS })
  const unsent = computed(() => [
    ...unsentOf(underWay.value).filter(
      (one) => one.says !== 'unknown' || time.value.getTime() - Date.parse(one.at) > SOON_MS,
    ),
    ...unsentOf(everybodys.value),
    ...(cut.value ? unsentOf(doubted.value) : []), // done, perhaps: what is shown was seen before
  ])
  return { unsent, now: computed(() => time.value.getTime() + ahead.value) }
}
