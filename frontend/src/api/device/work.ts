import type { Schemas } from '../client'
import type { Asked, FallHere, Told } from './asking'
import { keepGround } from './ground'
import { HERE, markWorked, opening, WITHIN } from './index'

/** Asks the worker that the rules are opened in, and says how its answers came about. */
const KEPT = 'worked'
const BASE = '/static/worked/'
let worker: Worker | undefined
let last = 0
const open = new Map<number, (told: Told) => void>()

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

/** Fetches what is needed with no server for the service worker to keep, and leaves nothing of older rules. */
export async function keep(): Promise<void> {
  await navigator.serviceWorker.ready
  await fetch('/api/ground')
  await keepGround()
  await import('./server')
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
