/// <reference lib="webworker" />
import type { Asked, Told } from './asking'

/**
 * The server in the page: its own Python and core, opened once, and behind it the server itself, opened when it is first asked;
 * what nobody waits for any more is left out.
 */
declare const self: DedicatedWorkerGlobalScope
const BASE = '/static/worked/'
type Door = (path: string, query: string, ground: string) => string
interface Opened {
  door: Door
  python: Awaited<ReturnType<typeof import('pyodide').loadPyodide>>
  lay: (part: 'rules' | 'server') => Promise<void>
}

async function open(): Promise<Opened> {
  type Manifest = Record<'python' | 'wheel' | 'rules' | 'server', string>
  const manifest = (await (await fetch(`${BASE}manifest.json`)).json()) as Manifest
  const home = `${BASE}${manifest.python}/`
  const { loadPyodide } = (await import(/* @vite-ignore */ `${home}pyodide.mjs`)) as typeof import('pyodide')
  const python = await loadPyodide({ indexURL: home })
  const [extractDir] = python.runPython('import site; site.getsitepackages()').toJs() as [string]
  const lay = async (part: 'rules' | 'server') => {
    const files = await (await fetch(BASE + manifest[part])).arrayBuffer()
    python.unpackArchive(files, 'zip', { extractDir })
  }
  await lay('rules')
  await python.loadPackage(new URL(BASE + manifest.wheel, self.location.href).href, { checkIntegrity: false })
  return { door: python.pyimport('dusky_heron.device.door').answer as Door, python, lay }
}

async function openServer(): Promise<(text: string) => string> {
  const { python, lay } = await opened
  await lay('server')
  const door = python.pyimport('dusky_heron.device.server.door') as { open_up(): void; work(text: string): string }
  door.open_up()
  return (text) => door.work(text)
}

const opened = open()
let server: ReturnType<typeof openServer> | undefined
const dropped = new Set<number>()

async function answered({ path, query, ground, text }: Asked): Promise<string> {
  if (text === undefined) return (await opened).door(path ?? '', query ?? '', ground ?? '')
  server ??= openServer()
  return (await server)(text)
}

self.onmessage = async ({ data }: MessageEvent<Asked>) => {
  const { id, path, text } = data
  if (path === undefined && text === undefined) return void dropped.add(id)
  let told: Told
  try {
    await opened
    if (dropped.delete(id)) return
    told = { id, answer: await answered(data) }
  } catch (error) {
    told = { id, failed: String(error) }
  }
  self.postMessage(told)
}
void opened.then(
  () => self.postMessage({ id: 0, answer: '' } satisfies Told),
  () => undefined, // told to whoever asks
)
