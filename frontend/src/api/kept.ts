import { useQueryClient } from '@tanstack/vue-query'
import { reactive, watch } from 'vue'
import type { Schemas } from './client'
import { TYPED } from './offline'

const FORTNIGHT_MIN = 14 * 24 * 60
const MINUTE_MS = 60_000
/** Minutes in which what was read at a part may still be gone on with; later it is read again. */
export const JUST_READ_MIN = 10

interface Stored {
  at: number
  /** The page it was typed on, which names its job. */
  where?: string
  typed: object
}

function stored(key: string): Stored | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as Stored | null
  } catch {
    return null
  }
}

/** The keys of what is half typed in this browser, whoever typed it, and where it was typed. */
const half = reactive(new Map<string, string>())
for (const key of Object.keys(localStorage)) if (key.startsWith(`${TYPED} `)) half.set(key, stored(key)?.where ?? '')

/** Whether a form or line about a job or a position is half typed by a member, told anew as it changes. */
export function useHalfTyped(): (id: string) => boolean {
  const me = useQueryClient().getQueryData<Schemas['Me']>(['session'])
  const mine = `${TYPED} ${me?.id ?? ''} `
  return (id) => [...half].some(([key, where]) => key.startsWith(mine) && `${key} ${where}`.includes(id))
}

export interface Kept {
  /** When what is typed now was kept before this form was opened; null where it begins empty. */
  resumed: Date | null
  forget: () => void
}

/**
 * What is typed into a form outlives Escape, another stage and a closed tab: it is kept in this browser for this member, and
 * gone once it was sent or is as it began. `name` tells one form from another and names what it is about by its id; nothing
 * secret belongs in here. What is true only for a while is kept for that many minutes.
 */
export function useKept(name: string, typed: object, minutes = FORTNIGHT_MIN): Kept {
  const me = useQueryClient().getQueryData<Schemas['Me']>(['session'])
  const key = `${TYPED} ${me?.id ?? ''} ${name}`
  const empty = JSON.stringify(typed)
  let resumed: Date | null = null
  const forget = () => {
    localStorage.removeItem(key)
    half.delete(key)
  }
  const kept = stored(key)
  if (kept && Date.now() - kept.at < minutes * MINUTE_MS) {
    Object.assign(typed, kept.typed)
    resumed = new Date(kept.at)
    half.set(key, kept.where ?? '')
  } else forget()
  watch(
    typed,
    () => {
      const now = JSON.stringify(typed) // refs in it are read as what they hold
      if (now === empty) {
        forget()
        return
      }
      const where = location.pathname
      localStorage.setItem(key, JSON.stringify({ at: Date.now(), where, typed }))
      half.set(key, where)
    },
    { deep: true },
  )
  return { resumed, forget }
}
