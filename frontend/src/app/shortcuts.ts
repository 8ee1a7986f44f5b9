import { useLocalStorage } from '@vueuse/core'
import { onBeforeUnmount, onMounted } from 'vue'

export type Keys = Record<string, () => void>

/** Whether keys are text where they go. */
export const typing = (target: EventTarget | null): target is HTMLElement =>
  target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable]')

const KEPT = 'single-keys'
const ALWAYS = '?' // the keys are switched on again where they are listed

/** Whether single keys act on this device. */
export const singleKeys = useLocalStorage(KEPT, true)

/** Single keys that act anywhere but in a field or an open dialog; gone with the component that asked for them. */
export function useShortcuts(keys: Keys): void {
  const press = (event: KeyboardEvent) => {
    const action = keys[event.key]
    if (
      !action ||
      event.repeat ||
      (!singleKeys.value && event.key !== ALWAYS) ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      typing(event.target)
    )
      return
    if (document.querySelector('[role=dialog]')) return
    event.preventDefault()
    action()
  }
  onMounted(() => document.addEventListener('keydown', press))
  onBeforeUnmount(() => document.removeEventListener('keydown', press))
}
