import { computed, ref } from 'vue'

const SEEN_BY = 'seen by'

/** When an answer came from what was seen last because the server does not answer; null while it does. */
export const unanswered = ref<Date | null>(null)
export const cut = computed(() => unanswered.value !== null)

/** Notes whether a response came from the server or from what was seen last. */
export function noteAnswer(response: Response): void {
  const old = response.headers.get('X-Seen-Last') !== null
  if (!old) unanswered.value = null
  else unanswered.value ??= new Date()
}

/** Keeps the page in the browser, where it allows that. */
export function keepPage(): void {
  if ('serviceWorker' in navigator) void navigator.serviceWorker.register('/sw.js', { type: 'module' }).catch(() => {})
}

/** What was seen by one member is not shown to another. */
export async function keepFor(member: string): Promise<void> {
  if (localStorage.getItem(SEEN_BY) === member) return
  localStorage.setItem(SEEN_BY, member)
  await forgetSeen()
}

/** Leaves nothing of what was seen to whoever signs in next. */
export async function forgetSeen(): Promise<void> {
  if (!('caches' in window)) return
  const kept = await caches.keys()
  await Promise.all(kept.filter((name) => !/^(workbox|page$)/.test(name)).map((name) => caches.delete(name)))
}
