<script setup lang="ts">
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { ref } from 'vue'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from './ActionButton.vue'

/** A button for what changes what is known of a charge: it acts when it is pressed twice, or held. Its key does the same. */
const { hint, disabled } = defineProps<{ primary?: boolean; hint?: string; disabled?: boolean }>()
const emit = defineEmits<{ act: [] }>()
const HOLD_MS = 700
const ARMED_MS = 5000
const armed = ref(false)
const lapse = useTimeoutFn(() => (armed.value = false), ARMED_MS, { immediate: false })
const held = useTimeoutFn(act, HOLD_MS, { immediate: false })
let justActed = false

function act() {
  armed.value = false
  lapse.stop()
  justActed = true
  emit('act')
}
function press() {
  if (disabled) return
  if (justActed) {
    justActed = false // the click that ends a hold
    return
  }
  if (armed.value) {
    act()
    justActed = false
  } else {
    armed.value = true
    lapse.start()
  }
}
useShortcuts(hint ? { [hint]: press } : {})
useEventListener(document, 'keydown', (event) => {
  if (event.key !== hint && event.key !== 'Enter' && event.key !== ' ') armed.value = false // other keys: nobody means this one
})
</script>

<template>
  <ActionButton
    :primary
    :hint
    :disabled
    :class="armed ? 'outline-3 outline-offset-2 outline-ochre' : ''"
    @click="press"
    @pointerdown="held.start"
    @pointerup="held.stop"
    @pointerleave="held.stop"
    ><span aria-live="polite"><template v-if="armed">Press again: </template><slot /></span
  ></ActionButton>
</template>
