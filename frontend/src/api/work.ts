import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { ask, client, type Schemas } from './client'
import { useWrite } from './write'

type Work = Schemas['WorkOut']
const ENDED = ['done', 'refused', 'stopped']
const OFTEN_MS = 300

/** Long work in the worker's hands: how far it is, what came of it, and stopping it. One piece at a time. */
export function useWork<Answer>() {
  const id = ref<string>()
  const { data } = useQuery({
    queryKey: ['work', id],
    queryFn: () => ask(client.GET('/api/work/{work_id}', { params: { path: { work_id: id.value ?? '' } } })),
    enabled: computed(() => id.value !== undefined),
    refetchInterval: (query) => (query.state.data && ENDED.includes(query.state.data.state) ? false : OFTEN_MS),
  })
  const { write: stop } = useWrite((work_id: string, headers) =>
    ask(client.POST('/api/work/{work_id}/stop', { params: { path: { work_id } }, headers })),
  )
  const work = computed<Work | undefined>(() => (data.value?.id === id.value ? data.value : undefined))
  return {
    work,
    running: computed(() => id.value !== undefined && !ENDED.includes(work.value?.state ?? '')),
    answer: computed(() => (work.value?.state === 'done' ? (work.value.answer as Answer) : undefined)),
    sentence: computed(() => work.value?.sentence ?? ''),
    watch: (asked: { id: string } | undefined) => (id.value = asked?.id),
    stop: () => id.value !== undefined && stop(id.value),
  }
}
