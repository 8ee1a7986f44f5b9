<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'

/** Holds what may be wider than the window: it scrolls by itself, by keys too where it must. */
const { label } = defineProps<{ label: string }>()
const box = useTemplateRef<HTMLElement>('box')
const wide = ref(false)
useResizeObserver(box, () => (wide.value = (box.value?.scrollWidth ?? 0) > (box.value?.clientWidth ?? 0)))
</script>

<template>
  <div
    ref="box"
    class="overflow-x-auto"
    :role="wide ? 'region' : undefined"
    :aria-label="wide ? label : undefined"
    :tabindex="wide ? 0 : undefined"
  >
    <slot />
  </div>
</template>
