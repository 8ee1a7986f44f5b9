import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import type { Ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useSave } from '@/api/save'
import type { FieldSpec } from '@/ui/fields'

export function useParts(words: Ref<string>) {
  return useQuery({
    queryKey: ['parts', words],
    queryFn: ({ signal }) => ask(client.GET('/api/parts', { params: { query: { words: words.value } }, signal })),
    placeholderData: keepPreviousData,
  })
}

export function useSavePart(fields: FieldSpec[]) {
  return useSave<Schemas['PartIn'], Schemas['PartOut']>(
    fields,
    (body, headers) => ask(client.POST('/api/parts', { body, headers })),
    (part_id, body, headers) =>
      ask(client.PUT('/api/parts/{part_id}', { params: { path: { part_id } }, body, headers })),
  )
}
