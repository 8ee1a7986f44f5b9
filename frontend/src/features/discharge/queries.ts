import { useQuery } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useWrite } from '@/api/write'

const path = (id: MaybeRefOrGetter<string>) => ({ path: { position_id: toValue(id) } })

export function usePlan(id: MaybeRefOrGetter<string>, enabled: boolean) {
  return useQuery({
    queryKey: ['plan', id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/discharge', { params: path(id) })),
    enabled,
  })
}

export function useNoteCharge(id: MaybeRefOrGetter<string>) {
  return useWrite((body: Schemas['ChargeIn'], headers) =>
    ask(client.POST('/api/positions/{position_id}/charge', { params: path(id), body, headers })),
  )
}
