import { useQueryClient } from '@tanstack/vue-query'
import { effectScope, onScopeDispose, reactive, watch } from 'vue'
import type { Schemas } from './client'
import { TYPED } from './offline'

const FORTNIGHT_MIN = 14 * 24 * 60
const MINUTE_MS = 60_000
/** Minutes in which what was read at a part may still be gone on with; later it is read again. */
export const JUST_READ_MIN = 10

interface Stored {
  at: number
  until: number
  /** The page it was typed on, which names its job. */
  where: string
  /** What it holds for: something newer ends it. */
  since: number
  typed: object
}

function stored(key: string): Stored | null {
  try {
    const found = JSON.parse(localStorage.getItem(key) ?? 'null') as Stored | null
    return found && found.until > Date.now() ? found : null
  } catch {
    return null
  }
}

/** The keys of what is half typed in this browser, whoever typed it. */
const half = reactive(new Set<string>())
for (const key of Object.keys(localStorage)) {
  if (!key.startsWith(`${TYPED} `)) continue
  if (stored(key)) half.add(key)
  else localStorage.removeItem(key)
}

/** Whether a form or line about a job or a position is half typed by a member, told anew as it changes. */
export function useHalfTyped(): (id: string) => boolean {
  const me = useQueryClient().getQueryData<Schemas['Me']>(['session'])
  const mine = `${TYPED} ${me?.id ?? ''} `
  const about = (key: string, id: string) => {
    const kept = stored(key) // gone, where it was let go or grew old meanwhile
    return kept !== null && `${key} ${kept.where}`.includes(id)
  }
  return (id) => [...half].some((key) => key.startsWith(mine) && about(key, id))
}

export interface Kept {
  /** When what is typed now was kept before this form was opened; null where it begins empty. */
  resumed: Date | null
  /** What stands in it now is how it begins: it was sent, or the form filled it in by itself. */
  forget: () => void
}

/**
 * What is typed into a form outlives Escape, another stage and a closed tab: it is kept in this browser for this member, and
 * gone once it was sent or is as it began. `name` tells one form from another and names what it is about by its id; nothing
 * secret belongs in here. What is true only for a while is kept for that many minutes, and no longer than what it is `since`.
 */
export function useKept(name: string, typed: object, minutes = FORTNIGHT_MIN, since = () => 0): Kept {
  const me = useQueryClient().getQueryData<Schemas['Me']>(['session'])
  const key = `${TYPED} ${me?.id ?? ''} ${name}`
  const empty = JSON.stringify(typed)
  let left = empty
  let wrote = ''
  let closed = false
  onScopeDispose(() => (closed = true))
  let resumed: Date | null = null
  const drop = () => {
    localStorage.removeItem(key)
    half.delete(key)
  }
  /** After it was closed: nothing was typed over what it left. */
  const untouched = () => !closed || JSON.stringify(stored(key)?.typed) === wrote
  const forget = () => {
    left = JSON.stringify(typed)
    if (untouched()) drop()
  }
  const kept = stored(key)
  if (kept?.since === since()) {
    Object.assign(typed, kept.typed)
    resumed = new Date(kept.at)
    wrote = JSON.stringify(typed)
    const begun = wrote
    watch(
      () => half.has(key),
      (has) => !has && JSON.stringify(typed) === begun && Object.assign(typed, JSON.parse(empty)),
    )
  } else drop()
  const keep = () => {
    const now = JSON.stringify(typed) // refs in it are read as what they hold
    if (now === empty || now === left) {
      if (untouched()) drop() // also where what it sent was answered after it was closed
      return
    }
    if (closed) return
    wrote = now
    const at = Date.now()
    const row: Stored = { at, until: at + minutes * MINUTE_MS, where: location.pathname, since: since(), typed }
    localStorage.setItem(key, JSON.stringify(row))
    half.add(key)
  }
  effectScope(true).run(() => watch(typed, keep, { deep: true }))
  return { resumed, forget }
}
