import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
import { useAsksFor } from '@/api/may'
import { useWrite } from '@/api/write'

const at = (job_id: string) => ({ path: { job_id } })

export function useHandback(job_id: string) {
  return useQuery({
    queryKey: ['handback', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/handback', { params: at(job_id) })),
    refetchInterval: ({ state }) => (state.data?.soak && !state.data.soak.ended ? 20_000 : false),
  })
}

export function useMakeCheck(job_id: string) {
  return useWrite(
    (body: Schemas['ProofCheckIn'], headers) =>
      ask(client.POST('/api/jobs/{job_id}/checks', { params: at(job_id), body, headers })),
    ['value', 'meter_id', 'against', 'lead'],
  )
}

export function useAskForReport(job_id: string) {
  return useWrite<null, Schemas['PaperWork']>((_, headers) =>
    ask(client.POST('/api/jobs/{job_id}/report', { params: at(job_id), headers })),
  )
}

export function useAskForFile(job_id: string) {
  return useWrite<null, Schemas['PaperWork']>((_, headers) =>
    ask(client.POST('/api/jobs/{job_id}/job-file', { params: at(job_id), headers })),
  )
}

export function useBeginSoak(job_id: string) {
  return useWrite(
    (body: Schemas['SoakIn'], headers) =>
      ask(client.POST('/api/jobs/{job_id}/soak', { params: at(job_id), body, headers })),
    ['minutes', 'links_off'],
  )
}

export function useEndSoak(job_id: string) {
  return useWrite((body: Schemas['SoakEnd'], headers) =>
    ask(client.POST('/api/jobs/{job_id}/soak/end', { params: at(job_id), body, headers })),
  )
}

/** Signs a deviation; of whoever is no lead, a proposal. */
export function useSignDeviation(job_id: string) {
  const other = useAsksFor()('lead')
  return useWrite(
    (body: Schemas['DeviationIn'], headers) => {
      const asked = { params: at(job_id), body, headers }
      return other
        ? ask<unknown>(client.POST('/api/jobs/{job_id}/deviations/proposed', asked))
        : ask<unknown>(client.POST('/api/jobs/{job_id}/deviations', asked))
    },
    ['reason'],
  )
}

/** Hands the job back; of whoever may not decide that, a proposal. */
export function useReturn(job_id: string) {
  const other = useAsksFor()('decide')
  return useWrite((body: Schemas['ReturnIn'], headers) => {
    const asked = { params: at(job_id), body, headers }
    return other
      ? ask<unknown>(client.POST('/api/jobs/{job_id}/return/proposed', asked))
      : ask<unknown>(client.POST('/api/jobs/{job_id}/return', asked))
  })
}

export function useTakeBack(job_id: string) {
  return useWrite((body: Schemas['ReturnIn'], headers) =>
    ask(client.POST('/api/jobs/{job_id}/take-back', { params: at(job_id), body, headers })),
  )
}

export function useQuote(job_id: string) {
  return useQuery({
    queryKey: ['quote', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/quote', { params: at(job_id) })),
  })
}

export function useWriteQuote(job_id: string) {
  return useWrite((body: Schemas['QuoteIn'], headers) =>
    ask(client.PUT('/api/jobs/{job_id}/quote', { params: at(job_id), body, headers })),
  )
}
