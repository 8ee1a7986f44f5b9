import { useQueryClient } from '@tanstack/vue-query'
import { toRaw, watch } from 'vue'
import type { Schemas } from './client'
import { TYPED } from './offline'

const DAYS = 14

/**
 * What is typed into a form outlives a closed tab: it is kept in this browser for this member, and gone once it was sent.
 * `name` tells one form from another; nothing secret belongs in here.
 */
export function useKept(name: string, typed: object): { forget: () => void } {
  const me = useQueryClient().getQueryData<Schemas['Me']>(['session'])
  const key = `${TYPED} ${me?.id ?? ''} ${name}`
  const empty = JSON.stringify(typed)
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as { at: number; typed: object } | null
    if (kept && Date.now() - kept.at < DAYS * 86_400_000) Object.assign(typed, kept.typed)
  } catch {
    localStorage.removeItem(key)
  }
  const forget = () => localStorage.removeItem(key)
  watch(typed, () => {
    const now = JSON.stringify(toRaw(typed))
    if (now === empty) forget()
    else localStorage.setItem(key, JSON.stringify({ at: Date.now(), typed: toRaw(typed) }))
  })
  return { forget }
}
