import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { ask, client, type Schemas } from '@/api/client'

/** What a typed marking means; a newer keystroke drops the answer to an older one. */
export function useReading(text: MaybeRefOrGetter<string>, role?: MaybeRefOrGetter<Schemas['Role'] | undefined>) {
  const wanted = computed(() => toValue(text).trim())
  const place = computed(() => toValue(role))
  return useQuery({
    queryKey: ['reading', wanted, place],
    queryFn: ({ signal }) =>
      ask(
        client.GET('/api/reading-box', {
          params: { query: { text: wanted.value, role: place.value ?? null } },
          signal,
        }),
      ),
    enabled: computed(() => wanted.value !== ''),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  })
}
