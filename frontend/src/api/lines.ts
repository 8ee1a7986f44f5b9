import { useQueryClient } from '@tanstack/vue-query'
import { computed, onScopeDispose, reactive, type ComputedRef } from 'vue'
import { ProblemError, type Schemas } from './client'
import { useKept } from './kept'
import { landed, wasTyped } from './outbox'
import { TYPED } from './offline'
import { newKey, type Headers } from './write'

/** A line that was entered: being sent, refused with what is wrong, or answered and not yet in what is read again. */
export interface Entered<Line> {
  key: string
  line: Line
  at?: number
  sent?: boolean
  refused?: Schemas['Problem']
}

export interface Lines<Line> {
  entered: ComputedRef<Entered<Line>[]>
  /** The last of those that were refused. */
  back: ComputedRef<Entered<Line> | undefined>
  put: (line: Line) => void
  /** Take a refused line back to mend it. */
  mend: (key: string) => Line | undefined
}

const AGAIN_MS = 4_000
const LINES = 'lines'

/** How many lines of a member are kept in this browser and were not answered yet. */
export function linesUnsent(member: string): number {
  const begins = `${TYPED} ${member} ${LINES} `
  const kept = Object.keys(localStorage).filter((key) => key.startsWith(begins))
  return kept.reduce((sum, key) => sum + unsentIn(localStorage.getItem(key) ?? ''), 0)
}
function unsentIn(text: string): number {
  try {
    const { typed } = JSON.parse(text) as { typed: { rows: Entered<unknown>[] } }
    return typed.rows.filter((row) => !row.sent).length
  } catch {
    return 1 // nobody can tell what it holds
  }
}

/**
 * Lines that are entered faster than they are answered: each is sent once, in its turn, while the next is typed.
 * What is not answered outlives a reload under the same key; a refused one waits to be mended, and holds up nothing.
 */
export function useLines<Line, Done>(
  name: string,
  send: (line: Line, headers: Headers) => Promise<Done>,
  answered: (done: Done, line: Line) => void = () => {},
  refused: (one: Entered<Line>) => void = () => {},
): Lines<Line> {
  const queries = useQueryClient()
  const kept = reactive<{ rows: Entered<Line>[] }>({ rows: [] })
  useKept(`${LINES} ${name}`, kept)
  const member = () => queries.getQueryData<Schemas['Me']>(['session'])?.id
  const writer = member() // who else signs in here sends none of them
  let again: ReturnType<typeof setTimeout> | undefined
  onScopeDispose(() => clearTimeout(again))
  const rows = () => kept.rows as Entered<Line>[]
  const without = (key: string) => (kept.rows = kept.rows.filter((row) => row.key !== key))
  const away = new Set<string>()
  let latest = 0

  async function readAgain(key: string) {
    const mine = ++latest
    await queries.invalidateQueries()
    landed(key)
    if (mine === latest) kept.rows = kept.rows.filter((row) => !row.sent)
  }
  async function once(row: Entered<Line>) {
    try {
      if (row.at) wasTyped(row.key, row.at)
      const done = await send(row.line, { 'Idempotency-Key': row.key })
      row.sent = true
      answered(done, row.line)
      void readAgain(row.key)
    } catch (error) {
      landed(row.key)
      if (!(error instanceof ProblemError)) throw error
      if (error.problem.status === 401) {
        clearTimeout(again)
        again = setTimeout(run, AGAIN_MS) // sent when its member is back
      } else if (['queued', 'done'].includes(error.problem.type)) without(row.key)
      else {
        row.refused = error.problem
        refused(row)
      }
    } finally {
      away.delete(row.key)
    }
  }
  function run() {
    if (member() !== writer) return
    for (const row of rows().filter((one) => !one.sent && !one.refused && !away.has(one.key))) {
      away.add(row.key)
      void once(row)
    }
  }
  function put(line: Line) {
    kept.rows.push({ key: newKey(), line, at: Date.now() } as (typeof kept.rows)[number])
    run()
  }
  function mend(key: string) {
    const row = rows().find((one) => one.key === key)
    without(key)
    return row?.line
  }
  kept.rows = kept.rows.filter((row) => !row.sent)
  run()
  const back = computed(() =>
    rows()
      .filter((row) => row.refused)
      .at(-1),
  )
  return { entered: computed(rows), back, put, mend }
}
