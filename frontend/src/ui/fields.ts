/** One field of a form: how it is named, labelled and typed into. */
export interface FieldSpec {
  name: string
  label: string
  kind?: 'text' | 'number' | 'date' | 'password' | 'multiline' | 'select' | 'number-select' | 'check'
  options?: { id: string; title: string }[]
  hint?: string
  wide?: boolean
  mono?: boolean
}

export type Draft = Record<string, unknown>

/** What is sent for a field: figures as numbers (a comma is a point), emptied ones as null, what is no number as typed. */
export function sent(spec: FieldSpec, typed: unknown): unknown {
  if (spec.kind === 'check') return Boolean(typed)
  if (spec.kind !== 'number' && spec.kind !== 'number-select' && spec.kind !== 'date') return typed ?? ''
  if (typed === '' || typed === null || typed === undefined) return null
  if (spec.kind === 'date') return typed
  const number = Number(String(typed).trim().replace(',', '.'))
  return Number.isNaN(number) ? typed : number
}
