import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useSave } from '@/api/save'
import { useWrite } from '@/api/write'
import { nextLook } from '@/ui/charge'
import type { FieldsOf } from '@/ui/fields'

export function useJob(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: ['job', computed(() => toValue(id))],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/sheet', { params: { path: { job_id: toValue(id) } } })),
    refetchInterval: ({ state }) => nextLook(state.data?.charge_line ?? []),
  })
}

export function useSaveJob(fields: FieldsOf<Schemas['JobIn']>) {
  return useSave<Schemas['JobIn'], Schemas['JobOut']>(
    fields,
    (body, headers) => ask(client.POST('/api/jobs', { body, headers })),
    (job_id, body, headers) => ask(client.PUT('/api/jobs/{job_id}', { params: { path: { job_id } }, body, headers })),
  )
}

export function useHandOver(job_id: string) {
  return useWrite(
    (body: Schemas['HandOverIn'], headers) =>
      ask(client.POST('/api/jobs/{job_id}/hand-over', { params: { path: { job_id } }, body, headers })),
    ['says'],
  )
}

/** A lead takes over what came with a job from a file. */
export function useAcceptFile() {
  return useWrite((job_id: string, headers) =>
    ask(client.POST('/api/jobs/{job_id}/accept', { params: { path: { job_id } }, headers })),
  )
}

/** Settles what the marking of a position leaves open, by the text that says just that. */
export function useSettle() {
  return useWrite(({ position, text }: { position: Schemas['PositionOut']; text: string }, headers) =>
    ask(
      client.PUT('/api/positions/{position_id}', {
        params: { path: { position_id: position.id } },
        body: { ...position, marking: text },
        headers,
      }),
    ),
  )
}

export function useSavePosition(job_id: string, fields: FieldsOf<Schemas['PositionIn']>) {
  return useSave<Schemas['PositionIn'], Schemas['PositionOut']>(
    fields,
    (body, headers) =>
      ask(client.POST('/api/jobs/{job_id}/positions', { params: { path: { job_id } }, body, headers })),
    (position_id, body, headers) =>
      ask(client.PUT('/api/positions/{position_id}', { params: { path: { position_id } }, body, headers })),
  )
}
