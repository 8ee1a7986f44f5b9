/// <reference lib="webworker" />
import type { Asked, Told } from './asking'

/** The rules of the server in the page: its own Python and core, opened once; what nobody waits for any more is left out. */
declare const self: DedicatedWorkerGlobalScope
const BASE = '/static/worked/'
type Door = (path: string, query: string, ground: string) => string

async function open(): Promise<Door> {
  const manifest = (await (await fetch(`${BASE}manifest.json`)).json()) as Record<'python' | 'wheel' | 'rules', string>
  const home = `${BASE}${manifest.python}/`
  const { loadPyodide } = (await import(/* @vite-ignore */ `${home}pyodide.mjs`)) as typeof import('pyodide')
  const rules = fetch(BASE + manifest.rules).then((response) => response.arrayBuffer())
  const python = await loadPyodide({ indexURL: home })
  const [folder] = python.runPython('import site; site.getsitepackages()').toJs() as [string]
  python.unpackArchive(await rules, 'zip', { extractDir: folder })
  await python.loadPackage(new URL(BASE + manifest.wheel, self.location.href).href, { checkIntegrity: false })
  return python.pyimport('dusky_heron.device.door').answer as Door
}

const door = open()
const dropped = new Set<number>()
self.onmessage = async ({ data }: MessageEvent<Asked>) => {
  const { id, path, query, ground } = data
  if (path === undefined) return void dropped.add(id)
  let told: Told
  try {
    const answer = await door
    if (dropped.delete(id)) return
    told = { id, answer: answer(path, query ?? '', ground ?? '') }
  } catch (error) {
    told = { id, failed: String(error) }
  }
  self.postMessage(told)
}
void door.then(
  () => self.postMessage({ id: 0, answer: '' } satisfies Told),
  () => undefined, // told to whoever asks
)
