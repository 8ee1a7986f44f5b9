import { ref } from 'vue'
import type { Waiting } from '../outbox'

/** Whether the server on this device has answered, so that its next answer comes at once. */
export const ready = ref(false)
let whenReady: () => unknown = () => undefined
export const readyThen = (handler: () => unknown) => (whenReady = handler)
export function opened(): void {
  if (ready.value) return
  ready.value = true
  whenReady()
}

export const beginsJob = (one: Waiting) => one.method === 'POST' && one.url === '/api/jobs'

const server = () => import('./server')
/** Opens it as soon as the connection goes, where all that it needs is kept. */
export const beginServer = () => server().then((here) => here.begin(), nothing)
export const readHere = (request: Request, member: string, writes: Waiting[]) =>
  server().then((here) => here.readHere(request, member, writes), nothing)
export const writeHere = (one: Waiting, writes: Waiting[]) =>
  ready.value ? server().then((here) => here.writeHere(one, writes), nothing) : Promise.resolve(undefined)
const nothing = () => undefined // the page was never kept
