import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
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

export function useSignDeviation(job_id: string) {
  return useWrite(
    (body: Schemas['DeviationIn'], headers) =>
      ask(client.POST('/api/jobs/{job_id}/deviations', { params: at(job_id), body, headers })),
    ['reason'],
  )
}

export function useReturn(job_id: string) {
  return useWrite((body: Schemas['ReturnIn'], headers) =>
    ask(client.POST('/api/jobs/{job_id}/return', { params: at(job_id), body, headers })),
  )
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
