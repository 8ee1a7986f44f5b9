import type { Schemas } from '@/api/client'

type Sheet = Schemas['BenchJob']
export type Order = 'harm' | 'promised' | 'newest' | 'stage' | 'waits' | 'customer' | 'last'
export interface Group {
  title: string
  sheets: Sheet[]
  /** How many more there are than are shown. */
  more: number
}

export const ORDERS: { id: Order; title: string }[] = [
  { id: 'harm', title: 'worst charge first' },
  { id: 'promised', title: 'promised first' },
  { id: 'newest', title: 'newest first' },
  { id: 'stage', title: 'by stage' },
  { id: 'waits', title: 'by what it waits for' },
  { id: 'customer', title: 'by customer' },
  { id: 'last', title: 'mine first' },
]

const OPEN = 'Open jobs'
const DAYS = 7
/** A day of this place, as dates are sent; so many days from now. */
export function dayFromNow(days = 0): string {
  const day = new Date()
  day.setDate(day.getDate() + days)
  return [day.getFullYear(), day.getMonth() + 1, day.getDate()].map((part) => String(part).padStart(2, '0')).join('-')
}
function promise({ job }: Sheet): string {
  if (!job.promised_by) return 'No day promised'
  if (job.promised_by < dayFromNow()) return 'Promised, and late'
  if (job.promised_by === dayFromNow()) return 'Promised for today'
  return job.promised_by <= dayFromNow(DAYS) ? 'Promised within a week' : 'Promised for later'
}
const byNumber = (a: Sheet, b: Sheet) => b.job.number - a.job.number
const byPromise = (a: Sheet, b: Sheet) =>
  (a.job.promised_by ?? '9999').localeCompare(b.job.promised_by ?? '9999') || byNumber(a, b)
const WAITS: Record<Sheet['waits_on'], string> = {
  signature: 'Waits for a signature',
  part: 'Waits for a part',
  hands: 'Waits for hands',
}
const byWaits = (a: Sheet, b: Sheet) =>
  Object.keys(WAITS).indexOf(a.waits_on) - Object.keys(WAITS).indexOf(b.waits_on) || byNumber(a, b)
/** One's own first, of each person what they worked on last. */
const LAST = '\uffff'
const byLast = (me: string) => (a: Sheet, b: Sheet) =>
  Number(b.last_by === me) - Number(a.last_by === me) ||
  (a.last_by || LAST).localeCompare(b.last_by || LAST) ||
  (b.last_at ?? '').localeCompare(a.last_at ?? '')
const TITLES: Record<Order, (sheet: Sheet) => string> = {
  harm: (sheet) =>
    sheet.may_hurt ? 'Open jobs, may hold what hurts' : 'Open jobs, proved, shorted or too small to hurt',
  promised: promise,
  newest: () => OPEN,
  stage: (sheet) => sheet.stage_title,
  waits: (sheet) => WAITS[sheet.waits_on],
  customer: (sheet) => sheet.job.customer || 'no customer noted',
  last: (sheet) => (sheet.last_by ? `${sheet.last_by} worked on it last` : 'Nobody has worked on it'),
}

const said = ({ job, stage_title, waits_for, proposed, handed_over, gravest }: Sheet) =>
  [
    job.number,
    job.title,
    job.customer,
    job.maker,
    job.model,
    job.serial,
    job.symptom,
    stage_title,
    waits_for,
    ...proposed,
    handed_over?.says,
    gravest?.name,
  ]
    .join(' ')
    .toLowerCase()

/** Jobs that hold all words, in an order, put together under what they have in common; the server's own order is by harm. */
export function groupsOf(sheets: Sheet[], words: string, order: Order, most: number, me = ''): Group[] {
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean)
  const kept = asked.length ? sheets.filter((sheet) => asked.every((word) => said(sheet).includes(word))) : sheets
  const by = { promised: byPromise, waits: byWaits, last: byLast(me) }[order as string] ?? byNumber
  const sorted = order === 'harm' ? kept : [...kept].sort(by)
  const groups = new Map<string, Group>()
  let left = most
  for (const sheet of sorted) {
    const title = TITLES[order](sheet)
    const group = groups.get(title) ?? { title, sheets: [], more: 0 }
    if (left-- > 0) group.sheets.push(sheet)
    else group.more++
    groups.set(title, group)
  }
  return [...groups.values()]
}
