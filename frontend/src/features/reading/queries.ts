import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client } from '@/api/client'

/** What a typed marking means; a newer keystroke drops the answer to an older one. */
export function useReading(text: MaybeRefOrGetter<string>) {
  const wanted = computed(() => toValue(text).trim())
  return useQuery({
    queryKey: ['reading', wanted],
    queryFn: ({ signal }) => ask(client.GET('/api/reading-box', { params: { query: { text: wanted.value } }, signal })),
    enabled: computed(() => wanted.value !== ''),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  })
}
