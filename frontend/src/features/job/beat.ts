import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, onScopeDispose, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { ask, client } from '@/api/client'
import { keepSoon } from '@/api/device/ground'
import { seenEntries } from '@/api/seen'

const EVERY_MS = 3_000

/** Asks how many entries a job has while it is looked at, and reads again what changed when somebody else wrote. */
export function useBeat(id: MaybeRefOrGetter<string>) {
  const queries = useQueryClient()
  const job_id = computed(() => toValue(id))
  const { data } = useQuery({
    queryKey: ['beat', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/beat', { params: { path: { job_id: job_id.value } } })),
    refetchInterval: EVERY_MS,
    staleTime: 0,
  })
  watch(
    () => data.value?.entries,
    (now, before) => {
      seenEntries.value = now
      if (now === undefined || before === undefined || now === before) return
      keepSoon()
      void queries.invalidateQueries({
        predicate: ({ queryKey }) => !['beat', 'session', 'vocabulary'].includes(String(queryKey[0])),
      })
    },
    { immediate: true },
  )
  onScopeDispose(() => (seenEntries.value = undefined))
  return { data }
}
