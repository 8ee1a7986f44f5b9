import type { Draft, FieldsOf } from '@/ui/fields'
import { useWrite, type Headers, type Writer } from './write'

/**
 * The write of a form: adds what has no id yet, saves what has one against the version it was read with.
 * The form's fields are checked by the server, which names the field and says what is wrong.
 */
export function useSave<Body, Saved>(
  fields: FieldsOf<Body>,
  add: (body: Body, headers: Headers) => Promise<Saved>,
  save: (id: string, body: Body & { version: number }, headers: Headers) => Promise<Saved>,
): Writer<Draft, Saved> {
  return useWrite(
    ({ id, version, ...typed }: Draft, headers) => {
      const body = typed as Body // as its fields say, each of them one of the body's own
      return id ? save(String(id), { ...body, version: Number(version) }, headers) : add(body, headers)
    },
    fields.map((field) => field.name),
  )
}
