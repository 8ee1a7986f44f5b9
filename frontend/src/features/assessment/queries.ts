import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter, type Ref } from 'vue'
import { ask, client, type Schemas } from '@/api/client'
import { useLines, type Entered } from '@/api/lines'
import { useWrite } from '@/api/write'

const path = (id: MaybeRefOrGetter<string>) => ({ path: { position_id: toValue(id) } })

export function useAssessment(id: MaybeRefOrGetter<string>, enabled: boolean) {
  return useQuery({
    queryKey: ['assessment', id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/assessment', { params: path(id) })),
    enabled,
  })
}

export function useEnterReadings(id: string, refused: (row: Entered<Schemas['ReadingIn']>) => void) {
  return useLines(
    `reading ${id}`,
    (body: Schemas['ReadingIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/readings', { params: path(id), body, headers })),
    undefined,
    refused,
  )
}

export function useNoteSigns(id: string) {
  return useLines(`signs ${id}`, (sign: Schemas['Sign'], headers) =>
    ask(client.POST('/api/positions/{position_id}/signs', { params: path(id), body: { sign }, headers })),
  )
}

export function useRecordVerdict(id: MaybeRefOrGetter<string>) {
  return useWrite((_: Record<string, never>, headers) =>
    ask(client.POST('/api/positions/{position_id}/verdict', { params: path(id), headers })),
  )
}

export function useTouchCurrent(job_id: string, enabled: boolean) {
  return useQuery({
    queryKey: ['touch', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/touch-current', { params: { path: { job_id } } })),
    enabled,
  })
}

export function useCommon(typed: Ref<{ ab: string; bc: string; ac: string }>) {
  const query = computed(() => ({ ...typed.value }))
  return useQuery({
    queryKey: ['common', query],
    queryFn: () => ask(client.GET('/api/common-terminal', { params: { query: query.value } })),
    enabled: computed(() => Object.values(query.value).filter((text) => text.trim()).length > 1),
    retry: false,
  })
}

export function useKeepVerdict(id: MaybeRefOrGetter<string>) {
  return useWrite((_: Record<string, never>, headers) =>
    ask(client.POST('/api/positions/{position_id}/verdict/kept', { params: path(id), headers })),
  )
}

export type BatchFigures = Omit<Schemas['BatchChoice'], 'choice'>

export function useBatch(id: MaybeRefOrGetter<string>, figures: Ref<BatchFigures>) {
  return useQuery({
    queryKey: ['batch', id, figures],
    queryFn: () => {
      const query = Object.fromEntries(Object.entries(figures.value).filter(([, figure]) => figure !== null))
      return ask(
        client.GET('/api/positions/{position_id}/batch', { params: { ...path(id), query: query as BatchFigures } }),
      )
    },
    placeholderData: keepPreviousData,
    retry: false,
  })
}

export function useDecideBatch(id: MaybeRefOrGetter<string>) {
  return useWrite((body: Schemas['BatchChoice'], headers) =>
    ask(client.POST('/api/positions/{position_id}/batch', { params: path(id), body, headers })),
  )
}

export function useBoard(job_id: string) {
  return useQuery({
    queryKey: ['board', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/board', { params: { path: { job_id } } })),
  })
}

export type BoardLine = Schemas['BoardLineIn']

export function useEnterLines(job_id: string, judged: (done: Schemas['BoardLineOut']) => void) {
  return useLines<BoardLine, Schemas['BoardLineOut']>(
    `board ${job_id}`,
    (body, headers) => ask(client.POST('/api/jobs/{job_id}/board', { params: { path: { job_id } }, body, headers })),
    judged,
  )
}
