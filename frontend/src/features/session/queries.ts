import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { forgetSeen } from '@/api/offline'
import { ask, client, type Schemas } from '@/api/client'

const KEY = ['session']

export function useMe() {
  return useQuery({ queryKey: KEY, queryFn: () => ask(client.GET('/api/session')), staleTime: Infinity })
}

export function useSession() {
  const queries = useQueryClient()
  return {
    signIn: async (input: Schemas['SignIn']) => {
      const me = await ask(client.POST('/api/session', { body: input }))
      queries.setQueryData(KEY, me)
      await queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== KEY[0] })
    },
    signOut: async () => {
      await ask(client.DELETE('/api/session'))
      await forgetSeen()
      location.assign('/')
    },
  }
}
