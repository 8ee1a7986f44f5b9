import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
import { useLines, type Entered } from '@/api/lines'
import { useWrite } from '@/api/write'

const at = (position_id: string) => ({ path: { position_id } })

export function useFitting(position_id: string) {
  return useQuery({
    queryKey: ['fitting', position_id],
    queryFn: () => ask(client.GET('/api/positions/{position_id}/fitting', { params: at(position_id) })),
  })
}

export function useTicks(position_id: string, refused: (row: Entered<Schemas['TickIn']>) => void) {
  return useLines(
    `ticks ${position_id}`,
    (body: Schemas['TickIn'], headers) =>
      ask(client.POST('/api/positions/{position_id}/fitting', { params: at(position_id), body, headers })),
    undefined,
    refused,
  )
}

export function useTakeOut(position_id: string) {
  return useWrite((_: null, headers) =>
    ask(client.POST('/api/positions/{position_id}/take-out', { params: at(position_id), headers })),
  )
}

const of = (job_id: string) => ({ path: { job_id } })

export function useBeside(job_id: string) {
  return useQuery({
    queryKey: ['beside', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/beside', { params: of(job_id) })),
  })
}

export function useNoteBeside(job_id: string) {
  return useWrite(
    (body: Schemas['BesideIn'], headers) =>
      ask(client.POST('/api/jobs/{job_id}/beside', { params: of(job_id), body, headers })),
    ['what', 'says'],
  )
}
