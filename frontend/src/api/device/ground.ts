import { computed, ref } from 'vue'
import { cut } from '../offline'
import type { Waiting } from '../outbox'
import { seenEntries } from '../seen'

/**
 * What this device keeps to go on with where no server answers: the rows of the workshop, and of each job in hand as its record was
 * when they were fetched. Of a job that was written to since, or of which more was seen, nothing kept is used.
 */
const CACHE = 'ground'
const WORKSHOP = '/api/kept'
const DOUBTED = 'ground in doubt'
const STANDS = { at: 'X-Kept-At', ahead: 'X-Ahead-Seconds', head: 'X-Head', entries: 'X-Entries' }
const OLDEST_MS = 24 * 3_600_000 // as answers that were seen
const ofJob = (job: string) => `/api/jobs/${job}/kept`
const jobOf = (path: string) => /\/jobs\/([0-9a-f-]{36})/.exec(path)?.[1]

/** The job that a request is about: named by its address, or by the page it is asked from. */
export const jobAsked = (url: string, page: string) => jobOf(url) ?? jobOf(page) ?? ''

interface Doubt {
  job: string
  write: Waiting
  /** What the server answered after it was read here. */
  seen?: boolean
}
function read(): Doubt[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(DOUBTED) ?? '[]')
    return Array.isArray(found)
      ? (found as Partial<Doubt>[]).filter((one): one is Doubt => one.write !== undefined)
      : []
  } catch {
    return []
  }
}
const doubts = ref<Doubt[]>(read())
const flying = new Set<string>()
const SOON_MS = 1_500
let soon: ReturnType<typeof setTimeout> | undefined
function doubt(change: (now: Doubt[]) => Doubt[]): void {
  doubts.value = change(read()) // another tab may have written since
  localStorage.setItem(DOUBTED, JSON.stringify(doubts.value))
}

/** What was sent, and is not known to stand in what this device has seen since: on its way, done, or done with its answer lost. */
export const doubted = computed(() => doubts.value.filter((one) => !one.seen).map((one) => one.write))
/** What follows from a write was read from the server: it speaks in what is shown. */
export function readSince(key: string): void {
  if (cut.value) return
  doubt((now) => now.map((one) => (one.write.key === key ? { ...one, seen: true } : one)))
}

/** A write is on its way: what is kept of its job is not used until it was kept anew, or the write is known to wait here. */
export function beforeWriting(write: Waiting): void {
  flying.add(write.key)
  const job = jobAsked(write.url, write.about ?? '')
  doubt((now) => [...now.filter((one) => one.write.key !== write.key), { job, write }])
}
/** The server did it, and what is kept of the job is fetched anew. */
export function written(key: string): void {
  flying.delete(key)
  keepSoon()
}
/** Keeps anew once nobody has written for a moment. */
export function keepSoon(): void {
  clearTimeout(soon)
  soon = setTimeout(() => void keepGround(), SOON_MS)
}
/** It waits here, or was refused: with that, what is kept is as good as before. */
export function notWritten(key: string): void {
  flying.delete(key)
  doubt((now) => now.filter((one) => one.write.key !== key))
}
/** Leaves nothing of what a member wrote who signs out. */
export function forgetWritten(member: string): void {
  doubt((now) => now.filter((one) => one.write.member !== member))
}

export interface Ground {
  /** Tells one ground from another. */
  stamp: string
  /** What the server on the device is to stand on, as JSON. */
  text: string
  rules: string
  /** When the server had it so. */
  at: Date
}

/** What is kept to answer for a job of a member; null where that is not enough. A job begun here has no rows of its own. */
export async function groundOf(job: string, member: string, begun: boolean): Promise<Ground | null> {
  if (!('caches' in window)) return null
  const cache = await caches.open(CACHE)
  const [workshop, own] = await Promise.all([cache.match(WORKSHOP), job ? cache.match(ofJob(job)) : undefined])
  if (!workshop || (job && !own && !begun)) return null
  const late = [workshop, own].some((one) => one && !(Date.now() - Number(one.headers.get(STANDS.at)) < OLDEST_MS))
  const behind = own && Number(own.headers.get(STANDS.entries)) < (seenEntries.value ?? 0)
  if (late || behind || doubts.value.some((one) => one.job === job || one.job === '')) return null
  const [rows, rowsOfJob] = await Promise.all([workshop.text(), own?.text() ?? 'null'])
  const ahead = workshop.headers.get(STANDS.ahead) ?? '0'
  return {
    stamp: [job, workshop.headers.get(STANDS.at), own?.headers.get(STANDS.at)].join(),
    text: `{"member_id":${JSON.stringify(member)},"ahead_s":${ahead},"workshop":${rows},"job":${rowsOfJob}}`,
    rules: (JSON.parse(rows) as { rules: string }).rules,
    at: new Date(Number((own ?? workshop).headers.get(STANDS.at))),
  }
}

async function fetched(url: string): Promise<string | undefined> {
  const response = await fetch(url)
  return response.ok && !response.headers.has('X-Seen-Last') ? response.text() : undefined
}

let unsent = () => false
/** While something waits to be sent nothing is kept anew: what is kept and what waits belong together. */
export const notWhile = (waits: () => boolean) => (unsent = waits)

let keeping: Promise<void> | undefined
let again = false
/** Keeps what changed of the workshop and of the jobs in hand, one round at a time; another follows where it is asked for meanwhile. */
export function keepGround(): Promise<void> {
  if (keeping) {
    again = true
    return keeping
  }
  keeping = round().finally(() => {
    keeping = undefined
    if (again) {
      again = false
      void keepGround()
    }
  })
  return keeping
}

async function round(): Promise<void> {
  if (cut.value || unsent() || !('caches' in window)) return
  const settled = read().filter((one) => !flying.has(one.write.key))
  const rows = await fetched(WORKSHOP).catch(() => undefined)
  if (!rows) return
  const { jobs, at } = JSON.parse(rows) as { jobs: Record<string, string>; at: string }
  const ahead = (Date.parse(at) - Date.now()) / 1000
  const cache = await caches.open(CACHE)
  const store = (url: string, text: string, more: Record<string, string>) =>
    cache.put(url, new Response(text, { headers: { [STANDS.at]: String(Date.now()), ...more } }))
  await store(WORKSHOP, rows, { [STANDS.ahead]: String(ahead) })
  for (const key of await cache.keys()) {
    const job = jobOf(key.url)
    if (job && !(job in jobs)) await cache.delete(key)
  }
  for (const [job, head] of Object.entries(jobs)) {
    const have = await cache.match(ofJob(job))
    const old = Date.now() - Number(have?.headers.get(STANDS.at)) > OLDEST_MS / 2
    if (have?.headers.get(STANDS.head) !== head || old) {
      const text = await fetched(ofJob(job)).catch(() => undefined)
      if (!text) return
      const { head: now, entries } = JSON.parse(text) as { head: string; entries: number }
      await store(ofJob(job), text, { [STANDS.head]: now, [STANDS.entries]: String(entries) })
    }
  }
  doubt((now) => now.filter((one) => !settled.some((old) => old.write.key === one.write.key)))
}
