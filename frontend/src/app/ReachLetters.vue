<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, shallowRef } from 'vue'
import { typing, useShortcuts } from './shortcuts'
import { controls, lettersFor, reach, saying } from './reach'

/** g, or Alt G where g would be text, puts letters beside all that can be reached; they go there. Any other key takes them away. */
interface Badge {
  letters: string
  to: HTMLElement
  says: string
  left: number
  top: number
}
const badges = shallowRef<Badge[]>([])
const typed = ref('')
const left = computed(() => badges.value.filter((badge) => badge.letters.startsWith(typed.value)))

function open() {
  const found = controls()
  const letters = lettersFor(found.length)
  typed.value = ''
  badges.value = found.map((to, index) => {
    const { left: x, top: y, height } = to.getBoundingClientRect()
    const down = to.matches('input, select, textarea') ? height / 2 - 10 : -8 // a field's label stands over it
    to.dataset.letters = letters[index]
    return {
      to,
      says: saying(to),
      letters: letters[index] ?? '',
      left: Math.max(0, x + scrollX - 8),
      top: Math.max(0, y + scrollY + down),
    }
  })
}
function close() {
  for (const badge of badges.value) delete badge.to.dataset.letters
  badges.value = []
}
useShortcuts({ g: open })
useEventListener(document, 'keydown', (event) => {
  if (!event.altKey || event.ctrlKey || event.metaKey || event.code !== 'KeyG') return // in a field or a dialog too
  event.preventDefault()
  open()
})
useEventListener(
  document,
  'keydown',
  (event) => {
    if (!badges.value.length || ['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return
    if (event.ctrlKey || event.altKey || event.metaKey) {
      close()
      return
    }
    event.preventDefault()
    event.stopImmediatePropagation()
    if (event.repeat) return // a key that is held means none
    const now = typed.value + event.key.toLowerCase()
    const fits = badges.value.filter((badge) => badge.letters.startsWith(now))
    const one = fits[0]
    if (!one) close()
    else if (one.letters === now) {
      close()
      if (controls().includes(one.to) && saying(one.to) === one.says) void nextTick(() => reach(one.to)) // else it is another now
    } else typed.value = now
  },
  { capture: true },
)
useEventListener(document, 'pointerdown', close)
useEventListener(document, 'keydown', (event) => {
  if (event.key !== 'Escape' || event.defaultPrevented || document.querySelector('[role=dialog]')) return
  if (typing(event.target)) event.target.blur() // single keys act again
})
useEventListener(window, 'resize', close)
onBeforeUnmount(close)
</script>

<template>
  <Teleport to="body">
    <p v-if="badges.length" class="sr-only" role="status">Letters stand beside what can be reached: type them.</p>
    <div v-if="badges.length" class="absolute top-0 left-0 z-30 print:hidden" aria-hidden="true">
      <span
        v-for="badge in left"
        :key="badge.letters"
        class="absolute rounded-xs border border-ink bg-ochre-w px-1 font-mono text-small leading-tight font-semibold text-ink uppercase"
        :style="{ left: `${badge.left}px`, top: `${badge.top}px` }"
        ><span class="text-slate5">{{ badge.letters.slice(0, typed.length) }}</span
        >{{ badge.letters.slice(typed.length) }}</span
      >
    </div>
  </Teleport>
</template>
