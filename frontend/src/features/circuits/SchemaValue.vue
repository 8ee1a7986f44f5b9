<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'

/** A value on a schematic. With a name it is changed where it stands: pressed, it is a field; Enter or Escape leaves it. */
const {
  x,
  y,
  anchor = 'start',
  text,
  name,
  size = 13,
} = defineProps<{
  x: number
  y: number
  anchor?: 'start' | 'middle'
  text: string
  name?: string
  size?: number
}>()
const emit = defineEmits<{ typed: [value: string] }>()
const WIDE = 110
const HIGH = 30
const open = ref(false)
const field = useTemplateRef('field')
const pressed = useTemplateRef('pressed')
async function change() {
  if (!name) return
  open.value = true
  await nextTick()
  field.value?.focus()
  field.value?.select()
}
async function leave() {
  open.value = false
  await nextTick()
  pressed.value?.focus()
}
const left = () => (anchor === 'middle' ? x - WIDE / 2 : x - 6)
</script>

<template>
  <foreignObject v-if="open" :x="left()" :y="y - 21" :width="WIDE" :height="HIGH">
    <input
      ref="field"
      class="h-full w-full rounded-sm border border-tide bg-sheet px-1.5 font-mono text-sm text-ink"
      :aria-label="name"
      autocomplete="off"
      :value="text"
      @input="emit('typed', ($event.target as HTMLInputElement).value)"
      @keydown.enter.prevent="leave"
      @keydown.esc.stop.prevent="leave"
      @blur="open = false"
    />
  </foreignObject>
  <g
    v-else
    ref="pressed"
    :role="name ? 'button' : undefined"
    :tabindex="name ? 0 : undefined"
    :aria-label="name ? `${name} ${text}: change it` : undefined"
    :class="name ? 'group cursor-pointer' : undefined"
    @click="change"
    @keydown.enter.prevent="change"
    @keydown.space.prevent="change"
  >
    <rect v-if="name" :x="left()" :y="y - 27" :width="WIDE" :height="42" fill="transparent" stroke="none" />
    <text
      :x
      :y
      :text-anchor="anchor"
      class="fill-slate7 font-mono"
      :class="{ 'decoration-dotted underline-offset-4 underline group-hover:fill-tide': name }"
      :font-size="size"
      stroke="none"
    >
      {{ text }}
    </text>
  </g>
</template>
