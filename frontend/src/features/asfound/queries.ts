import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
import { useLines } from '@/api/lines'
import { useWrite } from '@/api/write'

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

export function useAddPhoto(job_id: string) {
  return useWrite(
    ({ photo, caption }: { photo: File; caption: string }, headers) => {
      const form = new FormData()
      form.append('photo', photo)
      form.append('caption', caption)
      return ask(
        client.POST('/api/jobs/{job_id}/photos', {
          params: { path: { job_id } },
          body: { photo: '', caption },
          bodySerializer: () => form,
          headers,
        }),
      )
    },
    ['photo', 'caption'],
  )
}

export function useMarkPoint(photo_id: string) {
  return useWrite(
    (body: Schemas['PhotoPointIn'], headers) =>
      ask(client.POST('/api/photos/{photo_id}/points', { params: { path: { photo_id } }, body, headers })),
    ['label', 'position_id', 'line_id'],
  )
}
