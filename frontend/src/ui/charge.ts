import type { Schemas } from '@/api/client'

type Item = Schemas['ChargeItem']

const time = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

/** What is known of a charge, in words. */
export function sayCharge(item: Item): string {
  const since = item.at ? ` since ${time(item.at)}` : ''
  if (item.state === 'energised') return `energised${since}`
  if (item.state === 'emptying') return `emptying${since}, not proved`
  if (item.state === 'kept_shorted') return `kept shorted${since}`
  return 'unknown'
}
