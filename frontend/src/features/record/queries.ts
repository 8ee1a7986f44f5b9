import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'

export function useRecord(jobId: string) {
  return useQuery({
    queryKey: ['record', jobId],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/record', { params: { path: { job_id: jobId } } })),
  })
}

export function useVerified(jobId: string) {
  return useQuery({
    queryKey: ['verified', jobId],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/record/verified', { params: { path: { job_id: jobId } } })),
  })
}
