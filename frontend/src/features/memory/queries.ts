import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client, type Schemas } from '@/api/client'

export function useSeenBefore(job_id: string) {
  return useQuery({
    queryKey: ['seen-before', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/seen-before', { params: { path: { job_id } } })),
  })
}

export function useCameBack(job_id: string) {
  return useQuery({
    queryKey: ['came-back', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/came-back', { params: { path: { job_id } } })),
  })
}

export function useFailures(by: MaybeRefOrGetter<Schemas['GroupBy']>) {
  return useQuery({
    queryKey: ['failures', computed(() => toValue(by))],
    queryFn: () => ask(client.GET('/api/failures', { params: { query: { by: toValue(by) } } })),
    placeholderData: keepPreviousData,
  })
}

export function useSearch(words: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: ['search', computed(() => toValue(words))],
    queryFn: () => ask(client.GET('/api/search', { params: { query: { q: toValue(words) } } })),
    enabled: computed(() => /\w/.test(toValue(words))),
    placeholderData: keepPreviousData,
  })
}

export function useReturned() {
  return useQuery({ queryKey: ['returned'], queryFn: () => ask(client.GET('/api/returned')) })
}
