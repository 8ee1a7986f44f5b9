import { computed, ref } from 'vue'

export const SEEN_BY = 'seen by' // whose answers and drafts this browser keeps
export const TYPED = 'typed' // what a key of something typed begins with

/** When an answer came from what was seen last because the server does not answer; null while it does. */
export const unanswered = ref<Date | null>(null)
export const cut = computed(() => unanswered.value !== null)

const AHEAD = 'server ahead, ms'
const ROUGH_MS = 5_000
/** How far the server's clock is ahead of this one: what lapses does so by the server's. */
export const ahead = ref(Number(localStorage.getItem(AHEAD)) || 0)
let told = localStorage.getItem(AHEAD) !== null
/** A Date has whole seconds, and an answer takes its time: it is never told too far ahead, so the farthest is the nearest. */
function noteClock(date: string | null): void {
  const by = Date.parse(date ?? '') - Date.now()
  if (Number.isNaN(by) || (told && by <= ahead.value && ahead.value - by <= ROUGH_MS)) return
  told = true
  ahead.value = by
  localStorage.setItem(AHEAD, String(by))
}

let old = 0
/** How many answers were such as were seen last: what was read while it stays the same came from the server. */
export const answersSeenLast = () => old

/** Notes whether a response came from the server or from what was seen last, and what time it is there. */
export function noteAnswer(response: Response): void {
  if (response.headers.get('X-Seen-Last') === null) {
    noteClock(response.headers.get('Date'))
    unanswered.value = null
  } else {
    old += 1
    unanswered.value ??= new Date()
  }
}

/** Keeps the page in the browser, where it allows that. */
export function keepPage(): void {
  if ('serviceWorker' in navigator) void navigator.serviceWorker.register('/sw.js', { type: 'module' }).catch(() => {})
}

/** What was seen or typed by one member is not shown to another; what they have not sent yet waits for them. */
export async function keepFor(member: string): Promise<void> {
  if (localStorage.getItem(SEEN_BY) === member) return
  localStorage.setItem(SEEN_BY, member)
  forgetTyped(`${TYPED} ${member} `)
  await forgetSeen()
}

/** Leaves nothing typed in this browser, but for what begins so. */
export function forgetTyped(but = 'none'): void {
  for (const key of Object.keys(localStorage)) {
    if (key.startsWith(`${TYPED} `) && !key.startsWith(but)) localStorage.removeItem(key)
  }
}

/** A session that ended opens nothing any more, with or without a server. */
export async function lockSeen(): Promise<void> {
  if ('caches' in window) await (await caches.open('answers')).delete('/api/session')
}

/** Leaves nothing of what was seen to whoever signs in next. */
export async function forgetSeen(): Promise<void> {
  if (!('caches' in window)) return
  const kept = await caches.keys()
  await Promise.all(kept.filter((name) => !/^(workbox|page$|worked$)/.test(name)).map((name) => caches.delete(name)))
}
