import { ref } from 'vue'
import type { Schemas } from '../client'
import type { Asked, FallHere, Told } from './asking'
import { keepGround } from './ground'

/** What the page works out itself when no server answers, by the server's own code in a worker. */
const WORKED = /^\/api\/(reading-box|dropper|dropper\/faults|supply|bulk|string|forming|walk)$/ // `dusky_heron.device.door.WORKS`
const HERE = 'X-Worked-Here'
const WITHIN = 'X-Written-Within'
const KEPT = 'worked'
const BASE = '/static/worked/'
const IDLE_MS = 15_000

/** Whether the rules are being opened on this device. */
export const opening = ref(false)
let worker: Worker | undefined
let keeping = false
let last = 0
const open = new Map<number, (told: Told) => void>()

export const worksHere = (request: Request) => request.method === 'GET' && WORKED.test(new URL(request.url).pathname)

function begun(): Worker {
  if (worker) return worker
  opening.value = true
  worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = ({ data }: MessageEvent<Told>) => {
    opening.value = false
    open.get(data.id)?.(data)
    open.delete(data.id)
  }
  worker.onerror = () => {
    opening.value = false
    worker = undefined // the next question tries again
    for (const [id, tell] of open) tell({ id, failed: 'the worker ended' })
    open.clear()
  }
  return worker
}

/** The answer the server would give, worked out here; fails where the rules are not kept. */
export function workHere({ url, signal }: Request): Promise<Response> {
  const { pathname, search } = new URL(url)
  return work(pathname.slice('/api/'.length), search.slice(1), signal)
}

/** What was typed cannot be read, and why. */
export class NotRead extends Error {}

/** A fall with what was typed of it and is not sent: a write, which the server answers only when it gets it. */
export async function fallHere(data: FallHere, signal: AbortSignal): Promise<Schemas['FallOut']> {
  const response = await work('fall', new URLSearchParams({ data: JSON.stringify(data) }).toString(), signal)
  if (!response.ok) throw new NotRead(((await response.json()) as Schemas['Problem']).detail)
  return markWorked((await response.json()) as Schemas['FallOut'], response)
}

async function work(path: string, query: string, signal: AbortSignal): Promise<Response> {
  const ground = await fetch('/api/ground', { signal })
    .then((response) => (response.ok ? response.text() : ''))
    .catch(() => '')
  const answer = await put({ path, query, ground }, signal)
  const { status, body, rules } = JSON.parse(answer) as { status: number; body: unknown; rules: string }
  return Response.json(body, { status, headers: workedBy(said(rules, ground)) })
}

/** The answer of the worker to a question, as JSON; fails where what it needs is not kept. */
export async function put(asked: Omit<Asked, 'id'>, signal?: AbortSignal): Promise<string> {
  const id = ++last
  const told = await new Promise<Told>((resolve, reject) => {
    open.set(id, resolve)
    begun().postMessage({ id, ...asked } satisfies Asked)
    signal?.addEventListener('abort', () => {
      open.delete(id)
      worker?.postMessage({ id } satisfies Asked)
      reject(new DOMException('nobody waits for it', 'AbortError'))
    })
  })
  if (told.answer === undefined) throw new TypeError(told.failed)
  return told.answer
}

/** What an answer carries that was worked out here: how, and the keys of the unsent writes it was worked out with. */
export const workedBy = (how: string, within: string[] = []) => ({
  'X-Seen-Last': '1',
  [HERE]: how,
  [WITHIN]: within.join(),
})

/** How an answer came about, in a sentence. */
function said(rules: string, ground: string): string {
  if (!ground) return "Worked out on this device by the limits of the standards: the workshop's own are not known here."
  const theirs = (JSON.parse(ground) as Schemas['GroundOut']).rules
  return byRules(rules, theirs)
}
export const byRules = (rules: string, theirs: string) =>
  theirs === rules
    ? 'Worked out on this device.'
    : `Worked out on this device by rules ${rules}; the server has ${theirs}.`

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
  setTimeout(() => void kept().catch(() => undefined), IDLE_MS)
}

async function kept(): Promise<void> {
  await navigator.serviceWorker.ready
  await fetch('/api/ground')
  await keepGround()
  type Manifest = Record<'python' | 'wheel' | 'rules' | 'server', string>
  const manifest = (await (await fetch(`${BASE}manifest.json`)).json()) as Manifest
  const python = ['pyodide.mjs', 'pyodide.asm.mjs', 'pyodide.asm.wasm', 'python_stdlib.zip', 'pyodide-lock.json']
  const names = [...python.map((name) => `${manifest.python}/${name}`), manifest.wheel, manifest.rules, manifest.server]
  for (const name of names) await (await fetch(BASE + name)).arrayBuffer()
  const cache = await caches.open(KEPT)
  const wanted = new Set(['manifest.json', ...names].map((name) => BASE + name))
  const old = (await cache.keys()).filter((request) => !wanted.has(new URL(request.url).pathname))
  await Promise.all(old.map((request) => cache.delete(request)))
}
