import { useQuery } from '@tanstack/vue-query'
import { ask, client } from './client'

/** What forms offer to choose from, in the core's own words. */
export function useWords() {
  return useQuery({ queryKey: ['words'], queryFn: () => ask(client.GET('/api/words')), staleTime: Infinity })
}
