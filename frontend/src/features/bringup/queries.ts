import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
import { useWrite } from '@/api/write'

const at = (job_id: string) => ({ path: { job_id } })

export function usePowerUp(job_id: string) {
  return useQuery({
    queryKey: ['powerup', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/powerup', { params: at(job_id) })),
  })
}

export const PLANNED = ['kind', 'rail', 'current', 'standby', 'steps'] as const

export function useSetPlan(job_id: string) {
  return useWrite(
    (body: Schemas['PlanIn'], headers) =>
      ask(client.PUT('/api/jobs/{job_id}/powerup', { params: at(job_id), body, headers })),
    PLANNED,
  )
}

export function useLogStep(job_id: string) {
  return useWrite(
    (body: Schemas['StepIn'], headers) =>
      ask(client.POST('/api/jobs/{job_id}/powerup/steps', { params: at(job_id), body, headers })),
    ['percent', 'rail', 'current', 'later', 'note', 'links_off'],
  )
}
