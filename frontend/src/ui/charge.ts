import type { Schemas } from '@/api/client'

type Item = Schemas['ChargeItem']

const time = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

/** What is known of a charge, in words. It never says all clear. */
export function sayCharge(item: Item): string {
  const since = item.at ? ` since ${time(item.at)}` : ''
  const at = item.at ? ` at ${time(item.at)}` : ''
  const lapse = item.lapses_at ? time(item.lapses_at) : ''
  const known = item.sentence ? `: ${item.sentence}` : ''
  if (item.state === 'energised') return `energised${since}${known}`
  if (item.state === 'rising') return `rising${since}: stop`
  if (item.state === 'emptying') return `emptying${since}, not proved${known}`
  if (item.state === 'proved') return `proved ${item.sentence}${at}, lapses ${lapse}`
  if (item.state === 'lapsed') return `proof${at ? ` of ${time(item.at ?? '')}` : ''} lapsed ${lapse}`
  if (item.state === 'kept_shorted') return `kept shorted${since}${item.place ? `, ${item.place}` : ''}`
  if (item.state === 'link_off') return `link off${since}, not proved`
  if (item.state === 'revoked') return `proof${at} revoked: ${item.sentence}`
  return `unknown${known}`
}

const SLOWEST_MS = 20_000

/** How soon a charge line is asked for again: often while something falls, and as soon as a proof lapses. */
export function nextLook(lines: Item[]): number {
  if (lines.some((item) => item.state === 'emptying')) return 3000
  const lapses = lines.filter((item) => item.state === 'proved').map((item) => Date.parse(item.lapses_at ?? ''))
  const soonest = Math.min(...lapses.map((at) => at - Date.now() + 300))
  return Math.min(Math.max(soonest, 500), SLOWEST_MS)
}
