import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ask, client, ProblemError, type Schemas } from '@/api/client'
import { forgetSeen, forgetTyped, keepFor, SEEN_BY } from '@/api/offline'
import { dropAll } from '@/api/outbox'
import { useWrite } from '@/api/write'

const KEY = ['session']
const LEAVING = 'leaving' // signed out while no server answered: it is told first of all

async function findMe(): Promise<Schemas['Me']> {
  if (localStorage.getItem(LEAVING)) await tellLeaving()
  return ask(client.GET('/api/session'))
}

// Another tab signed out, or is another member's now: nothing of before stays in this one.
window.addEventListener('storage', (event) => {
  if ((event.key === LEAVING && event.newValue) || (event.key === SEEN_BY && event.oldValue)) location.assign('/')
})

async function tellLeaving() {
  try {
    await ask(client.DELETE('/api/session'))
  } catch (error) {
    if (!(error instanceof ProblemError) || error.problem.status !== 401) throw error // 401: it has ended already
  }
  localStorage.removeItem(LEAVING)
}

export function useMe() {
  return useQuery({ queryKey: KEY, queryFn: findMe, staleTime: Infinity })
}

export function useBeginFactor() {
  return useWrite(
    (body: Schemas['FactorPassword']) => ask(client.POST('/api/session/second-factor', { body })),
    ['password'],
  )
}

export function useConfirmFactor() {
  return useWrite(
    (body: Schemas['FactorCode']) => ask(client.POST('/api/session/second-factor/confirm', { body })),
    ['code'],
  )
}

export function useRenewCodes() {
  return useWrite(() => ask(client.POST('/api/session/second-factor/recovery')))
}

export function useRemoveOwnFactor() {
  return useWrite<null, Schemas['MemberOut']>(() => ask(client.DELETE('/api/session/second-factor')))
}

export function useSession() {
  const queries = useQueryClient()
  return {
    signIn: async (input: Schemas['SignIn']) => {
      const before = queries.getQueryData<Schemas['Me']>(KEY)
      const me = await ask(client.POST('/api/session', { body: input }))
      localStorage.removeItem(LEAVING)
      if (before && before.id !== me.id) {
        await keepFor(me.id)
        location.assign('/') // nothing of the one before stays on the screen
        return
      }
      queries.setQueryData(KEY, me)
      await queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== KEY[0] })
    },
    /** Leaves nothing in this browser, whether or not a server answers. */
    signOut: async () => {
      const me = queries.getQueryData<Schemas['Me']>(KEY)
      localStorage.setItem(LEAVING, '1')
      await tellLeaving().catch(() => {})
      if (me) dropAll(me.id)
      forgetTyped()
      await forgetSeen()
      location.assign('/')
    },
  }
}
