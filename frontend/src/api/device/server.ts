import type { Waiting } from '../outbox'
import { knew } from '../seen'
import { groundOf, jobAsked } from './ground'
import { beginsJob, opened, ready } from './ready'
import { byRules, put, workedBy } from './work'

/** The server on this device: it stands on what is kept of a job, has done what waits to be sent, and answers as the server would. */
const ABOUT =
  /^\/api\/(jobs|positions)(\/|$)|^\/api\/(vocabulary|meters|resistors|limits|schools|terms|common-terminal|may-replace)$/
const NEEDED = 503 // what only the server has
const REFUSED = [400, 422] // what was typed cannot be taken, there as here

interface Sent {
  method: string
  url: string
  body: string
  headers: Record<string, string>
}
interface Given {
  status: number
  body: unknown
}

/** Opens it, where all that it needs is kept. */
export async function begin(): Promise<void> {
  if (ready.value || !('caches' in window) || !(await caches.match('/static/worked/manifest.json'))) return
  await inTurn(() => put({ text: '{"ground":null,"requests":[]}' })).then(opened, () => undefined)
}

/** What it stands on, and which of the writes that wait were put to it, in their order, and taken. */
let standing: { stamp: string; put: string[]; taken: string[] } | undefined
let before: Promise<unknown> = Promise.resolve()

const asSent = (one: Waiting): Sent => ({
  method: one.method,
  url: one.url,
  body: one.body,
  headers: {
    'Idempotency-Key': one.key,
    'Waited-Seconds': String(Math.max(0, Date.now() - Date.parse(one.at)) / 1000),
    ...knew(one),
  },
})

/** What is to be done of what waits before a question about a job is answered: its own, and every job begun here. */
const about = (job: string, writes: Waiting[]) =>
  writes.filter((one) => !one.refused && !one.file && (beginsJob(one) || jobAsked(one.url, one.about ?? '') === job))

/** Questions one after the other: each finds what the one before left. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = before.then(work, work)
  before = mine.catch(() => undefined)
  return mine
}

async function askOf(job: string, member: string, writes: Waiting[], sent?: Sent): Promise<Response | undefined> {
  const mine = about(job, writes)
  const ground = await groundOf(job, member, writes.some(beginsJob))
  if (!ground) return undefined
  const keys = mine.map((one) => one.key)
  const goesOn = standing?.stamp === ground.stamp && standing.put.every((key, index) => keys[index] === key)
  const stands = goesOn && standing ? standing : { stamp: ground.stamp, put: [], taken: [] }
  const fresh = mine.slice(stands.put.length)
  const asked = sent ? [sent] : fresh.length ? [] : mine.slice(-1).map(asSent) // by its key it is answered as before
  const requests = [...fresh.map(asSent), ...asked]
  const text = `{"ground":${goesOn ? 'null' : ground.text},"requests":${JSON.stringify(requests)}}`
  standing = undefined // until it is known how far it came
  const { answers, rules } = JSON.parse(await put({ text })) as { answers: Given[]; rules: string }
  const taken = fresh.filter((_, index) => (answers[index]?.status ?? NEEDED) < 300)
  standing = { stamp: stands.stamp, put: keys, taken: [...stands.taken, ...taken.map((one) => one.key)] }
  opened()
  const last = answers.at(-1)
  if (!last || last.status >= 500) return undefined
  const since = ground.at.toLocaleTimeString('en-GB', { timeStyle: 'short' })
  const headers = workedBy(`${byRules(rules, ground.rules)} Kept from the server at ${since}.`, standing.taken)
  return Response.json(last.body, { status: last.status, headers })
}

/** The answer to a read as this device has it; nothing where it has none. */
export function readHere(request: Request, member: string, writes: Waiting[]): Promise<Response | undefined> {
  const { pathname, search } = new URL(request.url)
  if (!ABOUT.test(pathname)) return Promise.resolve(undefined)
  const sent = { method: 'GET', url: pathname + search, body: '', headers: {} }
  const job = jobAsked(pathname, location.pathname)
  return inTurn(() => askOf(job, member, writes, sent)).then(
    (found) => (found?.ok ? found : undefined),
    () => undefined, // it cannot be opened here
  )
}

/**
 * The answer to a write that waits, as this device has it: done, or not to be taken as it was typed. Nothing where the server may
 * see it otherwise, or the device is not open.
 */
export function writeHere(one: Waiting, writes: Waiting[]): Promise<Response | undefined> {
  if (!ABOUT.test(one.url)) return Promise.resolve(undefined)
  const earlier = writes.filter((other) => other.key !== one.key)
  const job = jobAsked(one.url, one.about ?? '')
  return inTurn(() => askOf(job, one.member, [...earlier, one])).then(
    (found) => (found && (found.ok || REFUSED.includes(found.status)) ? found : undefined),
    () => undefined,
  )
}
