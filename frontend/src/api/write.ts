import { useQueryClient } from '@tanstack/vue-query'
import { computed, onScopeDispose, ref, shallowRef, type ComputedRef, type Ref } from 'vue'
import { ProblemError, type Schemas } from './client'
import { landed, whenSent } from './outbox'

export type Headers = { 'Idempotency-Key': string }

/** The names of what is sent, and of what stands within them. */
export type NamesOf<Input> = Input extends File
  ? 'file'
  : Input extends object
    ? (keyof Input & string) | `${keyof Input & string}.${string}`
    : string

/** A file is told from another by what a browser knows of it. */
const plain = (_: string, value: unknown) =>
  value instanceof File ? [value.name, value.size, value.lastModified] : value

let askCode: (sentence: string) => Promise<boolean> = () => Promise.resolve(false)
/** What asks for a code of the second factor when a signature wants one; answers whether it was given. */
export function whenCodeAsked(handler: (sentence: string) => Promise<boolean>): void {
  askCode = handler
}

export interface Writer<Input, Output> {
  write: (input: Input) => Promise<Output | undefined>
  pending: Ref<boolean>
  /** After what is being written was answered and read again: for who types faster than that. */
  settled: () => Promise<void>
  /** It waits in the browser to be sent: there is no answer yet, and nothing more to do. */
  queued: ComputedRef<boolean>
  problem: Ref<ProblemError | null>
  at: (field: string) => string | undefined
  general: ComputedRef<string>
  forget: () => void
}

export function newKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** What a problem says that stands at none of the fields of a form. */
export function saysElsewhere({ errors, detail }: Schemas['Problem'], fields: readonly string[]): string {
  const elsewhere = errors.filter((error) => !fields.includes(error.field)).map((error) => error.sentence)
  return errors.length ? elsewhere.join(' ') : detail
}

/**
 * One write of a form or button: pending, what went wrong, and an idempotency key that stays the same while the same
 * thing is sent again, so that a repeated press or a lost answer never writes twice. `fields` are the names whose
 * sentences the form shows itself; `answered` is called with the answer, before everything is read again.
 */
export function useWrite<Input, Output>(
  send: (input: Input, headers: Headers) => Promise<Output>,
  fields: readonly NamesOf<Input>[] = [],
  answered: () => void = () => {},
): Writer<Input, Output> {
  const queries = useQueryClient()
  const pending = ref(false)
  const problem = shallowRef<ProblemError | null>(null)
  let key = newKey()
  let last = ''
  let current: Promise<unknown> = Promise.resolve()

  async function write(input: Input): Promise<Output | undefined> {
    if (pending.value) return undefined
    const text = JSON.stringify(input, plain)
    if (text !== last) [key, last] = [newKey(), text]
    pending.value = true
    const sent = once(input)
    current = sent
    return sent
  }
  async function once(input: Input): Promise<Output | undefined> {
    try {
      const answer = await send(input, { 'Idempotency-Key': key })
      problem.value = null
      last = ''
      answered()
      await queries.invalidateQueries()
      return answer
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      if (error.problem.status === 403 && error.at('code') && (await askCode(error.message))) return await once(input)
      problem.value = error
      return undefined
    } finally {
      pending.value = false
      landed(key)
    }
  }
  const settled = async () => {
    await current
  }
  const queued = computed(() => problem.value?.problem.type === 'queued')
  onScopeDispose(whenSent(() => queued.value && (problem.value = null)))
  const at = (field: string) => problem.value?.at(field)
  /** What is wrong and stands at none of the form's own fields. */
  const general = computed(() => {
    if (!problem.value || problem.value.problem.current) return ''
    return saysElsewhere(problem.value.problem, fields)
  })
  const forget = () => {
    problem.value = null
  }
  return { write, pending, settled, queued, problem, at, general, forget }
}
