import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useSave } from '@/api/save'
import { useWrite, type NamesOf } from '@/api/write'
import type { FieldsOf } from '@/ui/fields'

const path = (id: MaybeRefOrGetter<string>) => ({ path: { position_id: toValue(id) } })

export function usePlan(id: MaybeRefOrGetter<string>, enabled: boolean) {
  return useQuery({
    queryKey: ['plan', id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/discharge', { params: path(id) })),
    enabled,
  })
}

export function useNoteCharge(id: MaybeRefOrGetter<string>) {
  return useWrite(
    (body: Schemas['ChargeIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/charge', { params: path(id), body, headers })),
    ['ac_before'],
  )
}

export function useFall(id: string) {
  return useQuery({
    queryKey: ['fall', id],
    queryFn: async () => (await ask(client.GET('/api/positions/{position_id}/fall', { params: path(id) }))) ?? null,
  })
}

export function useLogFall(id: string) {
  return useWrite(
    (body: Schemas['FallIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/fall', { params: path(id), body, headers })),
    ['rows', 'meter_id', 'as_typed'],
  )
}

export function useProve(id: string, fields: readonly NamesOf<Schemas['ProofIn']>[]) {
  return useWrite(
    (body: Schemas['ProofIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/proof', { params: path(id), body, headers })),
    fields,
  )
}

export function useToProve(job_id: string, enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: ['to-prove', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/to-prove', { params: { path: { job_id } } })),
    enabled,
  })
}

export function useProveSeveral(job_id: string) {
  return useWrite((body: Schemas['ProofsIn'], headers) =>
    ask(client.POST('/api/jobs/{job_id}/proofs', { params: { path: { job_id } }, body, headers })),
  )
}

export function useDesign(id: string, limit: MaybeRefOrGetter<string>, working: MaybeRefOrGetter<number>) {
  const query = computed(() => ({ limit: toValue(limit), working_v: toValue(working) }))
  return useQuery({
    queryKey: ['design', id, query],
    queryFn: () =>
      ask(
        client.GET('/api/positions/{position_id}/bleeder', {
          params: { path: { position_id: id }, query: query.value },
        }),
      ),
    enabled: computed(() => query.value.limit !== ''),
    retry: false,
  })
}

export function useOtherTools(
  id: string,
  typed: MaybeRefOrGetter<{ lamp_voltage: string; lamp_power: string; load: string }>,
) {
  const query = computed(() => ({ ...toValue(typed) }))
  return useQuery({
    queryKey: ['other-tools', id, query],
    queryFn: () =>
      ask(
        client.GET('/api/positions/{position_id}/other-tools', {
          params: { path: { position_id: id }, query: query.value },
        }),
      ),
    retry: false,
  })
}

export function usePins(job_id: string, enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: ['pins', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/plug-pins', { params: { path: { job_id } } })),
    enabled,
  })
}

export function useSaveSurroundings(fields: FieldsOf<Schemas['SurroundingsEdit']>) {
  return useSave<Schemas['SurroundingsEdit'], Schemas['PositionOut']>(
    fields,
    () => Promise.reject(new Error('a position has its circuit from the start')),
    (position_id, body, headers) =>
      ask(
        client.PUT('/api/positions/{position_id}/surroundings', {
          params: { path: { position_id } },
          body,
          headers,
        }),
      ),
  )
}
