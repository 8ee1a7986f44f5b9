import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import type { Ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'

/** What a dropper as typed gives and loses; a newer keystroke drops the answer to an older one. */
export function useDropper(typed: Ref<Schemas['DropperIn']>) {
  const wanted = refDebounced(typed, 60)
  return useQuery({
    queryKey: ['dropper', wanted],
    queryFn: ({ signal }) => ask(client.GET('/api/dropper', { params: { query: wanted.value }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  })
}

export function useDropperStart(position_id: string) {
  return useQuery({
    queryKey: ['dropper-start', position_id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/dropper', { params: { path: { position_id } } })),
  })
}

/** What a transformer-fed supply as typed gives. */
export function useSupply(typed: Ref<Schemas['SupplyIn']>) {
  const wanted = refDebounced(typed, 60)
  return useQuery({
    queryKey: ['supply', wanted],
    queryFn: ({ signal }) => ask(client.GET('/api/supply', { params: { query: wanted.value }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  })
}
