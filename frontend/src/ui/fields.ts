/** One field of a form: how it is named, labelled and typed into; one that is `kept` is sent as it was and not shown. */
export interface FieldSpec {
  name: string
  label: string
  kind?: 'text' | 'number' | 'date' | 'password' | 'multiline' | 'select' | 'number-select' | 'check' | 'kept'
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

/** What is sent for a field: figures as numbers (a comma is a point), emptied ones as null, what is no number as typed. */
export function sent(spec: FieldSpec, typed: unknown): unknown {
  if (spec.kind === 'kept') return typed
  if (spec.kind === 'check') return Boolean(typed)
  if (spec.kind !== 'number' && spec.kind !== 'number-select' && spec.kind !== 'date') return typed ?? ''
  if (typed === '' || typed === null || typed === undefined) return null
  if (spec.kind === 'date') return typed
  const number = Number(String(typed).trim().replace(',', '.'))
  return Number.isNaN(number) ? typed : number
}
