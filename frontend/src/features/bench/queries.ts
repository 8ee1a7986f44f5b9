import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'

export function useBench() {
  return useQuery({ queryKey: ['bench'], queryFn: () => ask(client.GET('/api/bench')) })
}
