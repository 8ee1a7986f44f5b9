import { ref } from 'vue'

/** What the page works out itself when no server answers, by the server's own code in a worker. */
const WORKED = /^\/api\/(reading-box|dropper|dropper\/faults|supply|bulk|string|forming|walk)$/ // `dusky_heron.device.door.WORKS`
export const HERE = 'X-Worked-Here'
export const WITHIN = 'X-Written-Within'
const IDLE_MS = 15_000

let keeping = false
/** Whether the rules are being opened on this device. */
export const opening = ref(false)
export const worksHere = (request: Request) => request.method === 'GET' && WORKED.test(new URL(request.url).pathname)

/** Marks an answer that was worked out here. */
export function markWorked<T>(answer: T, response: Response): T {
  const how = response.headers.get(HERE)
  if (!how || !answer || typeof answer !== 'object') return answer
  const within = (response.headers.get(WITHIN) ?? '').split(',').filter(Boolean)
  return Object.assign(answer, { [HERE]: how, [WITHIN]: within })
}

/** The keys of the writes that are not sent and that an answer was worked out with. */
export const writtenWithin = (answer: unknown) =>
  (answer as Record<string, string[]> | null | undefined)?.[WITHIN] ?? []

/** How an answer was worked out here; nothing where the server gave it. */
export const workedHere = (answer: unknown) => (answer as Record<string, string> | null | undefined)?.[HERE] ?? ''

/** Fetches the rules once the page is at rest, for the service worker to keep, and leaves nothing of older ones. */
export function keepRules(): void {
  const spare = (navigator as { connection?: { saveData?: boolean } }).connection?.saveData
  if (keeping || spare || !('serviceWorker' in navigator)) return
  keeping = true
  setTimeout(() => void import('./work').then(({ keep }) => keep()).catch(() => undefined), IDLE_MS)
}
