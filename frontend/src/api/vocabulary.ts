import { useQuery } from '@tanstack/vue-query'
import { ask, client } from './client'

/** What forms offer to choose from, in the core's own words. */
export function useVocabulary() {
  return useQuery({ queryKey: ['vocabulary'], queryFn: () => ask(client.GET('/api/vocabulary')), staleTime: Infinity })
}
