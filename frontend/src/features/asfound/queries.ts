import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { shallowRef } from 'vue'
import { ask, client, ProblemError, type Schemas } from '@/api/client'
import { useLines } from '@/api/lines'
import { landed } from '@/api/outbox'
import { newKey, useWrite } from '@/api/write'

export function useFound(job_id: string) {
  return useQuery({
    queryKey: ['found', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/found', { params: { path: { job_id } } })),
  })
}

export function useAddLines(job_id: string) {
  return useLines(`found ${job_id}`, (text: string, headers) =>
    ask(client.POST('/api/jobs/{job_id}/found', { params: { path: { job_id } }, body: { text }, headers })),
  )
}

/** Photos of a job: each is sent by itself, behind the form, and stands in its place meanwhile. */
export function useAddPhotos(job_id: string) {
  const queries = useQueryClient()
  const problem = shallowRef<ProblemError>()
  async function add(photo: File, caption: string) {
    const key = newKey()
    const form = new FormData()
    form.append('photo', photo)
    form.append('caption', caption)
    try {
      const kept = await ask(
        client.POST('/api/jobs/{job_id}/photos', {
          params: { path: { job_id } },
          body: { photo: '', caption },
          bodySerializer: () => form,
          headers: { 'Idempotency-Key': key },
        }),
      )
      await queries.invalidateQueries()
      return kept
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      if (error.problem.type !== 'queued') problem.value = error
      return undefined
    } finally {
      landed(key)
    }
  }
  return { add, problem }
}

export function useMarkPoint(photo_id: string) {
  return useWrite(
    (body: Schemas['PhotoPointIn'], headers) =>
      ask(client.POST('/api/photos/{photo_id}/points', { params: { path: { photo_id } }, body, headers })),
    ['label', 'position_id', 'line_id'],
  )
}
