/** One field of a form: how it is named, labelled and typed into; one that is `kept` is sent as it was and not shown. */
export interface FieldSpec {
  name: string
  label: string
  kind?: 'text' | 'number' | 'date' | 'password' | 'multiline' | 'line' | 'select' | 'number-select' | 'check' | 'kept'
  options?: { id: string; title: string }[]
  hint?: string
  wide?: boolean
  mono?: boolean
}

export type Draft = Record<string, unknown>
type Field = Omit<FieldSpec, 'name'> | 'kept'
type Typed<Body> = Exclude<keyof Body, 'id' | 'version'>

/** The fields of a form that sends such a body: one for each thing in it, and none for what it does not have. */
export type FieldsOf<Body> = FieldSpec[] & { readonly of?: (body: Body) => void }

/** Declares them, in the order they are shown in. */
export function fieldsOf<Body>(fields: { [Name in Typed<Body>]-?: Field }): FieldsOf<Body> {
  return Object.entries<Field>(fields).map(([name, field]) =>
    field === 'kept' ? { name, label: '', kind: 'kept' } : { name, ...field },
  )
}

/** One comma or point before exactly three figures: a decimal sign or a thousand, which the core tells or asks. */
const OPEN = /^[+-]?[1-9]\d{0,2}[.,]\d{3}$/

/** Figures as a number, a comma for a point; what is open, or no number, is none. */
export const typedNumber = (text: string) => (OPEN.test(text.trim()) ? NaN : Number(text.trim().replace(',', '.')))

/** What is sent for a field: figures as numbers, emptied ones as null; what is open or no number, as typed. */
export function sent(spec: FieldSpec, typed: unknown): unknown {
  if (spec.kind === 'kept') return typed
  if (spec.kind === 'check') return Boolean(typed)
  if (spec.kind !== 'number' && spec.kind !== 'number-select' && spec.kind !== 'date') return typed ?? ''
  if (typed === '' || typed === null || typed === undefined) return null
  if (spec.kind === 'date') return typed
  const text = String(typed).trim()
  const number = typeof typed === 'number' ? typed : typedNumber(text)
  return Number.isNaN(number) ? typed : number
}
