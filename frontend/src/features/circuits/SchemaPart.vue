<script setup lang="ts">
import { computed } from 'vue'
import SchemaValue from './SchemaValue.vue'

/** One part of a schematic, sixty units long from its start, to the right or downwards; symbols after IEC 60617. */
type Kind = 'wire' | 'resistor' | 'capacitor' | 'polarised' | 'diode' | 'zener' | 'source' | 'winding'
const { kind, x, y, down, flip, label, name } = defineProps<{
  kind: Kind
  x: number
  y: number
  down?: boolean
  flip?: boolean
  label?: string
  name?: string
}>()
const emit = defineEmits<{ typed: [value: string] }>()
const SYMBOLS: Record<Kind, string> = {
  wire: 'M0 0H60',
  resistor: 'M0 0H14M14 -7H46V7H14ZM46 0H60',
  capacitor: 'M0 0H26M26 -13V13M34 -13V13M34 0H60',
  polarised: 'M0 0H26M26 -13H31V13H26ZM36 -13V13M36 0H60',
  diode: 'M0 0H60M21 -10L38 0L21 10ZM38 -10V10',
  zener: 'M0 0H60M21 -10L38 0L21 10ZM38 -10V10H33',
  source: 'M0 0H14M46 0H60M14 0A16 16 0 1 0 46 0A16 16 0 1 0 14 0M22 2C25 -7 28 -7 30 0S35 9 38 -2',
  winding: 'M0 0H8A5.5 5.5 0 0 1 19 0A5.5 5.5 0 0 1 30 0A5.5 5.5 0 0 1 41 0A5.5 5.5 0 0 1 52 0H60',
}
const place = computed(() => {
  const turned = `translate(${x} ${y}) rotate(${down ? 90 : 0})`
  return flip ? `${turned} translate(60 0) scale(-1 1)` : turned
})
const text = computed(() =>
  down ? { x: x + 19, y: y + 34, anchor: 'start' as const } : { x: x + 30, y: y - 16, anchor: 'middle' as const },
)
</script>

<template>
  <g>
    <path :d="SYMBOLS[kind]" :transform="place" fill="none" stroke="currentColor" stroke-width="1.6" />
    <SchemaValue
      v-if="label"
      :x="text.x"
      :y="text.y"
      :anchor="text.anchor"
      :text="label"
      :name
      @typed="emit('typed', $event)"
    />
  </g>
</template>
