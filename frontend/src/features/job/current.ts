import { computed, inject, provide, toValue, type ComputedRef, type InjectionKey, type MaybeRefOrGetter } from 'vue'

const CURRENT: InjectionKey<ComputedRef<string>> = Symbol('job')

/** Says within a job's view which job it is. */
export const provideJob = (id: MaybeRefOrGetter<string>) =>
  provide(
    CURRENT,
    computed(() => toValue(id)),
  )

/** The job whose view this stands in. */
export function useCurrentJob(): ComputedRef<string> {
  const id = inject(CURRENT)
  if (!id) throw new Error('this stands in no job')
  return id
}
