import { computed, ref, watch, type Ref } from 'vue'
import type { Schemas } from '@/api/client'

/** The meter a reading is taken with, the one used last until another is chosen, and what there is to choose from. */
export function useLastMeter(meters: Ref<Schemas['MeterOut'][] | undefined>) {
  const meter = ref(localStorage.getItem('meter') ?? '')
  watch(
    meters,
    (known) => {
      if (known?.length && !known.some((m) => m.id === meter.value)) meter.value = known[0]?.id ?? ''
    },
    { immediate: true },
  )
  watch(meter, (chosen) => localStorage.setItem('meter', chosen))
  const options = computed(() =>
    (meters.value ?? []).map((m) => ({
      id: m.id,
      title: `${m.name}, ±(${m.percent} % + ${m.counts})${m.overdue ? ', overdue' : ''}`,
    })),
  )
  return { meter, options }
}
