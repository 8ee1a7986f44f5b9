import { onBeforeUnmount, onMounted } from 'vue'

export type Keys = Record<string, () => void>

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable]')

/** Single keys that act anywhere but in a field or an open dialog; gone with the component that asked for them. */
export function useShortcuts(keys: Keys): void {
  const press = (event: KeyboardEvent) => {
    const action = keys[event.key]
    if (!action || event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return
    if (document.querySelector('[role=dialog]')) return
    event.preventDefault()
    action()
  }
  onMounted(() => document.addEventListener('keydown', press))
  onBeforeUnmount(() => document.removeEventListener('keydown', press))
}
