<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'

/** A photo that can be looked at closer, with numbered points; a click or the arrow keys and Enter say a place, a drag moves it. */
const { photo, points, from } = defineProps<{
  photo: Schemas['PhotoOut']
  points: { x: number; y: number }[]
  from?: { x: number; y: number }
}>()
const emit = defineEmits<{ place: [x: number, y: number] }>()
const cross = defineModel<{ x: number; y: number } | null>('cross', { default: null })
const picture = useTemplateRef<SVGSVGElement>('picture')
defineExpose({ focus: () => picture.value?.focus() })
const STEP = 0.02
const CLOSEST = 8
const DRAG_PX = 8
const MOVES: Record<string, [number, number]> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
}
const inside = (share: number) => Math.min(Math.max(share, 0), 1)
const closer = ref(1)
const middle = ref(from ?? { x: 0.5, y: 0.5 })
const part = computed(() => {
  const share = 1 / closer.value
  const begin = (at: number) => Math.min(Math.max(at - share / 2, 0), 1 - share)
  const [x, y] = [begin(middle.value.x) * photo.width, begin(middle.value.y) * photo.height]
  return { x, y, width: photo.width * share, height: photo.height * share }
})
const unit = computed(() => part.value.width / 45)
function look(times: number) {
  closer.value = Math.min(Math.max(closer.value * times, 1), CLOSEST)
  if (cross.value) middle.value = cross.value
}
function at(event: PointerEvent | MouseEvent) {
  const toPhoto = picture.value?.getScreenCTM()?.inverse()
  if (!toPhoto) return
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(toPhoto)
  return { x: inside(point.x / photo.width), y: inside(point.y / photo.height) }
}
let held: { x: number; y: number; was: { x: number; y: number }; moved: boolean } | undefined
function hold(event: PointerEvent) {
  held = { x: event.clientX, y: event.clientY, was: middle.value, moved: false }
}
function drag(event: PointerEvent) {
  const scale = picture.value?.getScreenCTM()?.a
  if (!held || !scale || !event.buttons || closer.value === 1) return
  const [dx, dy] = [event.clientX - held.x, event.clientY - held.y]
  held.moved ||= Math.hypot(dx, dy) > DRAG_PX
  if (held.moved) {
    const to = { x: held.was.x - dx / scale / photo.width, y: held.was.y - dy / scale / photo.height }
    middle.value = { x: inside(to.x), y: inside(to.y) }
  }
}
function click(event: MouseEvent) {
  const place = held?.moved ? undefined : at(event)
  held = undefined
  if (place) emit('place', place.x, place.y)
}
function press(event: KeyboardEvent) {
  const now = cross.value ?? middle.value
  const move = MOVES[event.key]
  if (move) cross.value = { x: inside(now.x + move[0] / closer.value), y: inside(now.y + move[1] / closer.value) }
  else if (event.key === 'Enter') emit('place', now.x, now.y)
  else if (event.key === '+' || event.key === '-') look(event.key === '+' ? 2 : 0.5)
  else return
  if (move && closer.value > 1 && cross.value) middle.value = cross.value
  event.preventDefault()
}
</script>

<template>
  <svg
    ref="picture"
    tabindex="0"
    role="application"
    :aria-label="`${photo.caption || 'Photo'}: arrow keys move the cross, Enter marks the point, + and - look closer and farther`"
    class="mt-3 max-h-[60dvh] w-full cursor-crosshair bg-slate1"
    :class="closer > 1 ? 'touch-none' : ''"
    :viewBox="`${part.x} ${part.y} ${part.width} ${part.height}`"
    @pointerdown="hold"
    @pointermove="drag"
    @click="click"
    @keydown="press"
  >
    <image :href="`/api/photos/${photo.id}`" :width="photo.width" :height="photo.height" />
    <g v-for="(point, index) in points" :key="index">
      <circle
        :cx="point.x * photo.width"
        :cy="point.y * photo.height"
        :r="unit"
        class="fill-ochre stroke-paper"
        :stroke-width="unit / 5"
      />
      <text
        :x="point.x * photo.width"
        :y="point.y * photo.height"
        :font-size="unit * 1.25"
        text-anchor="middle"
        dominant-baseline="central"
        class="fill-paper font-mono font-bold"
      >
        {{ index + 1 }}
      </text>
    </g>
    <path
      v-if="cross"
      :d="`M${cross.x * photo.width} 0V${photo.height}M0 ${cross.y * photo.height}H${photo.width}`"
      class="stroke-ochre"
      :stroke-width="unit / 7"
    />
  </svg>
  <div class="mt-2 flex flex-wrap items-center gap-3">
    <ActionButton :disabled="closer === CLOSEST" @click="look(2)">Closer</ActionButton>
    <ActionButton :disabled="closer === 1" @click="look(0.5)">Farther</ActionButton>
    <span v-if="closer > 1" class="font-mono text-small text-slate5">{{ closer }} ×</span>
  </div>
</template>
