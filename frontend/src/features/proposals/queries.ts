import { useQuery } from '@tanstack/vue-query'
import { ask, client, type Schemas } from '@/api/client'
import { useWrite } from '@/api/write'

const at = (job_id: string) => ({ path: { job_id } })

/** What waits for a signature on the bench, and what was returned to whoever is signed in. */
export function useProposals() {
  return useQuery({ queryKey: ['proposals'], queryFn: () => ask(client.GET('/api/proposals')) })
}

export function useProposalsOf(job_id: string) {
  return useQuery({
    queryKey: ['proposals', job_id],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/proposals', { params: at(job_id) })),
  })
}

export function useAnswerProposal(job_id: string, proposal_id: string) {
  return useWrite(
    (body: Schemas['ProposalAnswer'], headers) =>
      ask(
        client.POST('/api/jobs/{job_id}/proposals/{proposal_id}/answer', {
          params: { path: { job_id, proposal_id } },
          body,
          headers,
        }),
      ),
    ['word'],
  )
}
