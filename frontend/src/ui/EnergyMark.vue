<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** An energy on a scale of its logarithm, from 1 mJ to 10 kJ: three notches stand where touch limit, injury and death begin. */
const { mark, wide } = defineProps<{ mark: Schemas['EnergyMarkOut']; wide?: boolean }>()
const WIDE = 320
const SMALL = 64
const span = computed(() => (wide ? WIDE : SMALL))
const at = (share: number) => 1 + share * (span.value - 2)
const notches = computed(() => [
  { name: 'touch', x: at(mark.touch) },
  { name: 'injury', x: at(mark.injury) },
  { name: 'lethal', x: at(mark.lethal) },
])
const NAME = 40 // what a name takes: the first stands before its notch where there is room
const before = (notch: { name: string; x: number }) => notch.name === 'touch' && notch.x > NAME
const colour = computed(() => {
  if (mark.at >= mark.lethal) return 'fill-danger'
  return mark.at >= mark.touch ? 'fill-ochre' : 'fill-slate5'
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${span} ${wide ? 34 : 14}`"
    :width="span"
    :height="wide ? 34 : 14"
    class="max-w-full shrink-0"
    aria-hidden="true"
  >
    <rect x="0" y="4" :width="span" height="6" class="fill-slate2" />
    <rect x="0" y="4" :width="Math.max(at(mark.at), 2)" height="6" :class="colour" />
    <template v-for="notch in notches" :key="notch.name">
      <line :x1="notch.x" :x2="notch.x" y1="0" y2="14" class="stroke-ink" stroke-width="1.5" />
      <text
        v-if="wide"
        :x="notch.x + (before(notch) ? -3 : 3)"
        y="29"
        :text-anchor="before(notch) ? 'end' : 'start'"
        class="fill-slate7 text-[13px]"
      >
        {{ notch.name }}
      </text>
    </template>
  </svg>
</template>
