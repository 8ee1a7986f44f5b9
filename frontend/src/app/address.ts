import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch, type WritableComputedRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * What stands in the address under a name, so that Back, a reload and whoever is sent it see the same; `usual` is left out.
 * What is typed counts at once: the address follows it.
 */
export function useInAddress(name: string, usual = ''): WritableComputedRef<string> {
  const route = useRoute()
  const router = useRouter()
  const stands = () => (typeof route.query[name] === 'string' ? route.query[name] : usual)
  const typed = ref(stands())
  let following = 0
  watch(stands, (now) => {
    if (!following) typed.value = now
  })
  return computed({
    get: () => typed.value,
    set: (value) => {
      typed.value = value
      following++
      const query = { ...route.query, [name]: value === usual ? undefined : value }
      void router.replace({ query }).finally(() => following--)
    },
  })
}

const REST_MS = 300
const BY_THEMSELVES = ['dropper', 'supply'] // pages that are a bench and nothing else

/** Puts into the address what was changed on a bench that has a page of its own, and begins with what stands there. */
export function useBenchInAddress(typed: Record<string, unknown>): void {
  const route = useRoute()
  const router = useRouter()
  if (!BY_THEMSELVES.includes(String(route.name))) return
  const start = { ...typed }
  const path = route.path
  for (const name of Object.keys(start).filter((known) => typeof start[known] === 'string')) {
    const shared = route.query[name]
    if (typeof shared === 'string') typed[name] = shared
  }
  watchDebounced(
    typed,
    () => {
      const changed = Object.entries(typed).filter(
        ([name, value]) => typeof value === 'string' && value !== start[name],
      )
      if (route.path === path) void router.replace({ query: Object.fromEntries(changed) as Record<string, string> })
    },
    { debounce: REST_MS },
  )
}
