import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'
import { nextLook } from '@/ui/charge'

export function useBench() {
  return useQuery({
    queryKey: ['bench'],
    queryFn: () => ask(client.GET('/api/bench')),
    refetchInterval: ({ state }) => nextLook((state.data ?? []).flatMap((sheet) => sheet.gravest ?? [])),
  })
}
