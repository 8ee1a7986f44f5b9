import { ref, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'
import type { Schemas } from '@/api/client'

type Meter = Schemas['MeterAllowed']

/** The meter used last, kept on this device; the first that may be used where that one may not. */
export function useChosenMeter(meters: MaybeRefOrGetter<Meter[]>): Ref<string> {
  const chosen = ref(localStorage.getItem('voltmeter') ?? '')
  watch(
    () => toValue(meters).filter((meter) => !meter.refusals.length),
    (allowed) => {
      if (!allowed.some((meter) => meter.id === chosen.value))
        chosen.value = allowed[0]?.id ?? toValue(meters)[0]?.id ?? ''
    },
    { immediate: true },
  )
  watch(chosen, (id) => id && localStorage.setItem('voltmeter', id))
  return chosen
}

export const meterOptions = (meters: Meter[]) =>
  meters.map((meter) => ({ id: meter.id, title: meter.refusals.length ? `${meter.name}: not here` : meter.name }))
