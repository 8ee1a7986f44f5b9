import { computed, type ComputedRef, type WritableComputedRef } from 'vue'
import { useInAddress } from '@/app/address'
import type { Asked } from './queries'

export type FilterName = 'state' | 'safety_class' | 'kind' | 'pitch_mm' | 'age'
export type Filters = Record<FilterName, WritableComputedRef<string>>
export const FILTERS: FilterName[] = ['state', 'safety_class', 'kind', 'pitch_mm', 'age']

/** What of the drawer is asked for beside words, kept in the address; and all of it as it is asked. */
export function useFilters(): { on: Filters; words: WritableComputedRef<string>; asked: ComputedRef<Asked> } {
  const on: Filters = {
    state: useInAddress('state'),
    safety_class: useInAddress('class'),
    kind: useInAddress('kind'),
    pitch_mm: useInAddress('pitch'),
    age: useInAddress('age'),
  }
  const words = useInAddress('words')
  const asked = computed<Asked>(() => {
    const given = FILTERS.flatMap((name) => (on[name].value ? [[name, on[name].value] as const] : []))
    return { words: words.value, ...Object.fromEntries(given) }
  })
  return { on, words, asked }
}
