import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import type { Ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useSave } from '@/api/save'
import { useWrite } from '@/api/write'
import type { paths } from '@/api/schema'
import type { FieldsOf } from '@/ui/fields'

export type Asked = NonNullable<paths['/api/parts']['get']['parameters']['query']>

export function useParts(asked: Ref<Asked>) {
  return useQuery({
    queryKey: ['parts', asked],
    queryFn: ({ signal }) => ask(client.GET('/api/parts', { params: { query: asked.value }, signal })),
    placeholderData: keepPreviousData,
  })
}

/** The parts whose marking leaves a question open. */
export function useUnsettled() {
  return useQuery({
    queryKey: ['parts', 'unsettled'],
    queryFn: ({ signal }) => ask(client.GET('/api/parts', { params: { query: { state: 'unsettled' } }, signal })),
  })
}

/** Settles what the marking of a part leaves open, by the text that says just that. */
export function useSettlePart() {
  return useWrite(({ part, text }: { part: Schemas['PartOut']; text: string }, headers) =>
    ask(
      client.PUT('/api/parts/{part_id}', {
        params: { path: { part_id: part.id } },
        body: { ...part, marking: text },
        headers,
      }),
    ),
  )
}

export function useSavePart(fields: FieldsOf<Schemas['PartIn']>) {
  return useSave<Schemas['PartIn'], Schemas['PartOut']>(
    fields,
    (body, headers) => ask(client.POST('/api/parts', { body, headers })),
    (part_id, body, headers) =>
      ask(client.PUT('/api/parts/{part_id}', { params: { path: { part_id } }, body, headers })),
  )
}

const asForm = (file: File) => {
  const form = new FormData()
  form.append('file', file)
  return form
}

/** What a stock list would change; nothing is written. */
export function usePreviewList() {
  return useWrite(
    (file: File, headers) =>
      ask(client.POST('/api/part-lists/preview', { body: { file: '' }, bodySerializer: () => asForm(file), headers })),
    ['file'],
  )
}

export function useTakeList() {
  return useWrite(
    (file: File, headers) =>
      ask(client.POST('/api/part-lists', { body: { file: '' }, bodySerializer: () => asForm(file), headers })),
    ['file'],
  )
}

export function useUndoList() {
  return useWrite((import_id: number, headers) =>
    ask(client.POST('/api/part-lists/{import_id}/undo', { params: { path: { import_id } }, headers })),
  )
}

const movements = (id: string) =>
  ask(client.GET('/api/parts/{part_id}/movements', { params: { path: { part_id: id } } }))

/** A part by its id, undefined when it is not of this drawer. */
export const partById = (id: string) =>
  movements(id).then(
    (found) => found.part,
    () => undefined,
  )

export function useMovements(id: string) {
  return useQuery({ queryKey: ['movements', id], queryFn: () => movements(id) })
}

export function useMove(part_id: string) {
  return useWrite(
    (body: Schemas['MoveIn'], headers) =>
      ask(client.POST('/api/parts/{part_id}/movements', { params: { path: { part_id } }, body, headers })),
    ['change', 'counted', 'says'],
  )
}
