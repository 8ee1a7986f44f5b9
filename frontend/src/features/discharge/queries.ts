import { useQuery } from '@tanstack/vue-query'
import { computed, onScopeDispose, shallowRef, toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useLines, type Entered } from '@/api/lines'
import { useSave } from '@/api/save'
import { saysElsewhere, useWrite, type Headers, type NamesOf } from '@/api/write'
import type { FieldsOf } from '@/ui/fields'

const path = (id: MaybeRefOrGetter<string>) => ({ path: { position_id: toValue(id) } })

export function usePlan(id: MaybeRefOrGetter<string>, enabled: boolean) {
  return useQuery({
    queryKey: ['plan', id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/discharge', { params: path(id) })),
    enabled,
  })
}

/** What is noted of a charge waits for no answer to the note before it: live again is said at once. */
export function useNoteCharges(id: string) {
  const { entered, put, at, general } = useNotes(
    `charge ${id}`,
    (body: Schemas['ChargeIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/charge', { params: path(id), body, headers })),
    ['ac_before'],
  )
  /** Pressed once more before it was answered, the same is noted once. */
  const note = (body: Schemas['ChargeIn']) =>
    JSON.stringify(entered.value.at(-1)?.line) === JSON.stringify(body) || put(body)
  return { note, at, general }
}

/** Lines of which a refused one is told beside the form it came from, and is no line any more. */
function useNotes<Body>(
  name: string,
  send: (body: Body, headers: Headers) => Promise<unknown>,
  fields: readonly NamesOf<Body>[],
  refused: (body: Body) => void = () => {},
) {
  const problem = shallowRef<Schemas['Problem']>()
  let gone = false
  onScopeDispose(() => (gone = true))
  const lines = useLines(
    name,
    send,
    () => (problem.value = undefined),
    (row) => {
      if (gone) return // it is kept, and tried again where its form is open
      lines.mend(row.key)
      problem.value = row.refused
      refused(row.line)
    },
  )
  const at = (field: string) => problem.value?.errors.find((error) => error.field === field)?.sentence
  const general = computed(() => problem.value && saysElsewhere(problem.value, fields))
  return { entered: lines.entered, put: lines.put, at, general }
}

export function useFall(id: string) {
  return useQuery({
    queryKey: ['fall', id],
    queryFn: async () => (await ask(client.GET('/api/positions/{position_id}/fall', { params: path(id) }))) ?? null,
  })
}

/** Readings of a fall wait for no answer to those before them: a rise is seen at once. What is refused comes back. */
export function useLogFalls(id: string, refused: (body: Schemas['FallIn']) => void) {
  const { put, at, general } = useNotes(
    `fall ${id}`,
    (body: Schemas['FallIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/fall', { params: path(id), body, headers })),
    ['rows', 'meter_id', 'as_typed'],
    refused,
  )
  return { put, at, general }
}

export type Proof = Schemas['ProofIn']

export function useProve(
  id: string,
  answered: (done: Schemas['ProofOut'], body: Proof) => void,
  refused: (row: Entered<Proof>) => void,
) {
  return useLines(
    `proofs ${id}`,
    (body: Proof, headers) =>
      ask(client.POST('/api/positions/{position_id}/proof', { params: path(id), body, headers })),
    answered,
    refused,
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
