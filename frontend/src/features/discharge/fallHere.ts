import { useNow } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import type { Schemas } from '@/api/client'
import { writtenWithin } from '@/api/device'
import { fallHere, NotRead } from '@/api/device/work'
import { underWay, waiting } from '@/api/outbox'
import { fallsHere, type FoundHere } from '@/api/unsent'

const SLOW_MS = 2_000 // what is answered sooner is worked out there
const NO_RULES = 'It waits to be sent. This device has no rules yet to say what it means: take it for full.'

/** A fall as it was seen last, and with what was typed of it since where that is not sent: worked out here. */
export function useFallHere(
  positionId: string,
  seen: MaybeRefOrGetter<Schemas['FallOut'] | null | undefined>,
  meters: MaybeRefOrGetter<Schemas['MeterAllowed'][]>,
) {
  const now = useNow({ interval: SLOW_MS })
  const mine = computed(() => {
    const slow = underWay.value.filter((one) => now.value.getTime() - Date.parse(one.at) > SLOW_MS)
    const others = slow.filter((one) => !waiting.value.some((other) => other.key === one.key))
    return [...others, ...waiting.value].filter(
      (one) => one.url === `/api/positions/${positionId}/fall` && !one.refused,
    )
  })
  const here = shallowRef<Schemas['FallOut']>()
  const problem = ref('')
  let asked = new AbortController()
  function mark(found?: FoundHere) {
    const others = Object.entries(fallsHere.value).filter(([id]) => id !== positionId)
    fallsHere.value = Object.fromEntries(found ? [...others, [positionId, found]] : others)
  }
  async function work() {
    asked.abort()
    asked = new AbortController()
    const { signal } = asked
    const fall = toValue(seen)
    const within = writtenWithin(fall)
    const more = mine.value.filter((one) => !within.includes(one.key))
    const written = more.map((one) => JSON.parse(one.body) as Schemas['FallIn'])
    const meter = toValue(meters).find((one) => one.id === written.at(-1)?.meter_id)
    if (!written.length) {
      here.value = undefined
      problem.value = ''
      if (mine.value.length) mark({ says: fall?.danger ? 'rising' : 'falling', logs: mine.value.length })
      else if (positionId in fallsHere.value) mark()
      return
    }
    if (!fall || !meter) return
    try {
      here.value = await fallHere(
        {
          fall,
          rows: written.map((one) => one.rows),
          meter_name: meter.name,
          display_counts: meter.display_counts,
          meter_ohm: meter.input_ohm,
          counted_from: more.at(-1)?.at ?? '',
        },
        signal,
      )
      problem.value = ''
      mark({ says: here.value.danger ? 'rising' : 'falling', logs: mine.value.length })
    } catch (error) {
      if (signal.aborted) return
      mark()
      problem.value = error instanceof NotRead ? error.message : NO_RULES
    }
  }
  const which = computed(() => mine.value.map((one) => one.key).join())
  watch([which, () => toValue(seen), () => toValue(meters).length], () => void work(), { immediate: true })
  onScopeDispose(() => asked.abort())
  return { fall: computed(() => here.value ?? toValue(seen)), problem }
}
