import { useQuery } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client } from '@/api/client'
import { useWrite } from '@/api/write'

const path = (id: MaybeRefOrGetter<string>) => ({ path: { position_id: toValue(id) } })

export function useCandidates(id: MaybeRefOrGetter<string>, enabled: boolean) {
  return useQuery({
    queryKey: ['candidates', id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/candidates', { params: path(id) })),
    enabled,
  })
}

export function useChoose(id: MaybeRefOrGetter<string>) {
  return useWrite((partId: string, headers) =>
    ask(client.POST('/api/positions/{position_id}/choice', { params: path(id), body: { part_id: partId }, headers })),
  )
}
