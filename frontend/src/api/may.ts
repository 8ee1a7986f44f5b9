import { useQueryClient } from '@tanstack/vue-query'
import type { Schemas } from './client'

export type Asks = Schemas['Me']['may'][number]

const WHO: Record<Asks, string> = { work: 'a member', decide: 'a technician', lead: 'a lead' }

/** Who an action asks for, where the signed-in member may not do it; empty where they may. The server decides all the same. */
export function useAsksFor(): (asks?: Asks) => string {
  const queries = useQueryClient()
  return (asks) => {
    const may: Asks[] | undefined = queries.getQueryData<Schemas['Me']>(['session'])?.may // none in one kept from before
    return asks && may && !may.includes(asks) ? WHO[asks] : ''
  }
}
