import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, shallowRef, watchEffect, type Ref } from 'vue'
import { ask, client, ProblemError, type Schemas } from '@/api/client'
import { useWrite } from '@/api/write'

/**
 * An answer to what is typed; a newer keystroke drops the answer to an older one. `last` is the latest there was: what is
 * offered to choose from stays while a value that cannot be read is mended.
 */
function useTyped<Typed, Answer>(
  key: string,
  typed: Ref<Typed>,
  get: (typed: Typed, signal: AbortSignal) => Promise<Answer>,
  wanted: (typed: Typed) => boolean = () => true,
  rest = 60,
) {
  const settled = refDebounced(typed, rest)
  const { data, error, isFetching } = useQuery({
    queryKey: [key, settled],
    queryFn: ({ signal }) => get(settled.value, signal),
    enabled: computed(() => wanted(settled.value)),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const last = shallowRef<Answer>()
  watchEffect(() => {
    if (data.value) last.value = data.value
  })
  /** What is wrong at a field. */
  const at = (field: string) => (error.value instanceof ProblemError ? error.value.at(field) : undefined)
  const waits = computed(() => isFetching.value && !data.value)
  return { data, isFetching, waits, last, at }
}

/** What a dropper as typed gives and loses. */
export const useDropper = (typed: Ref<Schemas['DropperIn']>) =>
  useTyped('dropper', typed, (query, signal) => ask(client.GET('/api/dropper', { params: { query }, signal })))

/** Which fault explains what was measured on it; asked once something was. */
export const useFaults = (typed: Ref<Schemas['MeasuredIn']>) =>
  useTyped(
    'faults',
    typed,
    (query, signal) => ask(client.GET('/api/dropper/faults', { params: { query }, signal })),
    (query) => [query.rails, query.ripples, query.currents, query.powers].some((column) => column.some(Boolean)),
    300, // a dozen faults are simulated: asked when the typing rests
  )

export function useDropperStart(position_id: string) {
  return useQuery({
    queryKey: ['dropper-start', position_id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/dropper', { params: { path: { position_id } } })),
  })
}

/** The benches a position asks for, with its values in them. */
export function useBenches(position_id: string) {
  return useQuery({
    queryKey: ['benches', position_id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/benches', { params: { path: { position_id } } })),
  })
}

/** Puts a step of re-forming on record. */
export function useLogForming(position_id: string) {
  return useWrite(
    (body: Schemas['FormingIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/forming', { params: { path: { position_id } }, body, headers })),
    ['capacitance', 'rating', 'resistor', 'source', 'log'],
  )
}

/** What a transformer-fed supply as typed gives. */
export const useSupply = (typed: Ref<Schemas['SupplyIn']>) =>
  useTyped('supply', typed, (query, signal) => ask(client.GET('/api/supply', { params: { query }, signal })))

/** The bulk of a switching supply. */
export const useBulk = (typed: Ref<Schemas['BulkIn']>) =>
  useTyped('bulk', typed, (query, signal) => ask(client.GET('/api/bulk', { params: { query }, signal })))

/** Capacitors in series. */
export const useString = (typed: Ref<Schemas['StringShareIn']>) =>
  useTyped('string', typed, (query, signal) => ask(client.GET('/api/string', { params: { query }, signal })))

/** Re-forming an electrolytic. */
export const useForming = (typed: Ref<Schemas['FormingIn']>) =>
  useTyped('forming', typed, (query, signal) => ask(client.GET('/api/forming', { params: { query }, signal })))

/** The walk of a job, as far as it is on its record. */
export function useJobWalk(job_id: string) {
  return useQuery({
    queryKey: ['walk of', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/walk', { params: { path: { job_id } } })),
  })
}

/** Puts one reading of a walk on record. */
export function useLogWalk(job_id: string) {
  return useWrite(
    (body: Schemas['WalkReadingIn'], headers) =>
      ask(client.POST('/api/jobs/{job_id}/walk', { params: { path: { job_id } }, body, headers })),
    ['value', 'symptom', 'part_ntc', 'part_bleed', 'part_choke', 'part_bulk'],
  )
}

/** The walk from the inlet. */
export const useWalk = (typed: Ref<Schemas['WalkIn']>) =>
  useTyped('walk', typed, (query, signal) => ask(client.GET('/api/walk', { params: { query }, signal })))
