import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'
import { useWrite } from '@/api/write'
import { useCurrentJob } from '@/features/job/current'

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

/** Strikes a line of the job whose view this stands in; within ten seconds its writer needs no reason. */
export function useStrike() {
  const job = useCurrentJob()
  return useWrite(
    ({ sequence, reason }: { sequence: number; reason: string }, headers) =>
      ask(
        client.POST('/api/jobs/{job_id}/record/{sequence}/struck', {
          params: { path: { job_id: job.value, sequence } },
          body: { reason },
          headers,
        }),
      ),
    ['reason'],
  )
}
