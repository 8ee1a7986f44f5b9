import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, shallowRef, toValue, type MaybeRefOrGetter, type Ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useAsksFor } from '@/api/may'
import { useWrite } from '@/api/write'

const path = (id: MaybeRefOrGetter<string>) => ({ path: { position_id: toValue(id) } })

export function useCandidates(id: MaybeRefOrGetter<string>, enabled: boolean) {
  return useQuery({
    queryKey: ['candidates', id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/candidates', { params: path(id) })),
    enabled,
  })
}

/** The rest of what may take the place, thirty at a time, and those that answer to words. */
export const moreCandidates = (id: string, start: number, words: string) =>
  ask(client.GET('/api/positions/{position_id}/candidates', { params: { ...path(id), query: { start, words } } }))

const PLAIN: Schemas['ChoiceIn'] = { way: 'single', part_ids: [], reason: '', signed: [], bleeder: '', series: '' }

/** Fills the place; of whoever may not decide that, a proposal. */
export function useChoose(id: string) {
  const other = useAsksFor()('decide')
  return useWrite(
    (choice: Partial<Schemas['ChoiceIn']>, headers) => {
      const asked = { params: path(id), body: { ...PLAIN, ...choice }, headers }
      return other
        ? ask<unknown>(client.POST('/api/positions/{position_id}/choice/proposed', asked))
        : ask<unknown>(client.POST('/api/positions/{position_id}/choice', asked))
    },
    ['reason', 'signed', 'bleeder', 'series'],
  )
}

export function useOrderSpecified(id: string) {
  return useWrite(
    (body: Schemas['OrderSpecifiedIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/order', { params: path(id), body, headers })),
    ['needed_by'],
  )
}

export function useTakeOut(id: string) {
  return useWrite((_: null, headers) =>
    ask(client.POST('/api/positions/{position_id}/take-out', { params: path(id), headers })),
  )
}

export function useTogether(id: string) {
  return useQuery({
    queryKey: ['together', id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/together', { params: path(id) })),
  })
}

export function useOverride(id: string) {
  return useWrite(
    (body: Schemas['OverrideIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/override', { params: path(id), body, headers })),
    ['rule_id', 'reason'],
  )
}

/** The answer to two markings; asked once both are typed. */
export function useQuestion(
  typed: Ref<{ old: string; new: string; role: string; kind: string; supply_voltage: string }>,
) {
  const wanted = refDebounced(typed, 80)
  return useQuery({
    queryKey: ['question', wanted],
    queryFn: ({ signal }) =>
      ask(client.GET('/api/may-replace', { params: { query: wanted.value as Schemas['QuestionIn'] }, signal })),
    enabled: computed(() => Boolean(wanted.value.old && wanted.value.new)),
    retry: false,
  })
}

/** A bill of materials: what it would do to a job, and taking it. */
export function useBill(job_id: string) {
  const at = { path: { job_id } }
  const form = (file: File) => () => {
    const data = new FormData()
    data.append('file', file)
    return data
  }
  const seen = shallowRef<Schemas['BillOut']>()
  const look = useWrite((file: File, headers) =>
    ask(
      client.POST('/api/jobs/{job_id}/bill/preview', {
        params: at,
        body: { file: '' },
        bodySerializer: form(file),
        headers,
      }),
    ),
  )
  const taking = useWrite((file: File, headers) =>
    ask(
      client.POST('/api/jobs/{job_id}/bill', { params: at, body: { file: '' }, bodySerializer: form(file), headers }),
    ),
  )
  return {
    seen,
    preview: async (file: File) => (seen.value = await look.write(file)),
    take: taking.write,
    pending: taking.pending,
    sentence: computed(() => look.general.value || taking.general.value),
  }
}
