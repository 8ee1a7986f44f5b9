<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** A body in the space there is, to scale, from above and from the side; what is over the edge stands out. */
const { outline } = defineProps<{ outline: Schemas['OutlineOut'] }>()
const ROOM = 150
const GAP = 26
type Box = Schemas['BoxOut']
/** The body turned so that its long side lies along the long side of the space. */
const body = computed<Box>(() => {
  const { length, width, height } = outline.body
  const [long, short] = [Math.max(length, width), Math.min(length, width)]
  return outline.space.length >= outline.space.width
    ? { length: long, width: short, height }
    : { length: short, width: long, height }
})
const scale = computed(() => ROOM / Math.max(...Object.values(body.value), ...Object.values(outline.space)))
const views = computed(() => [
  { name: 'from above', wide: 'length', tall: 'width', bottom: false } as const,
  { name: 'from the side', wide: 'length', tall: 'height', bottom: true } as const,
])
const size = (box: Box) => `${box.length} × ${box.width} × ${box.height} mm`
const leads = computed(() => {
  const pitch = outline.pitch ?? outline.wanted_pitch
  return pitch ? [-pitch / 2, pitch / 2] : []
})
const holes = computed(() => (outline.wanted_pitch ? [-outline.wanted_pitch / 2, outline.wanted_pitch / 2] : []))
const others = computed(() => outline.other_pitches.flatMap((pitch) => [-pitch / 2, pitch / 2]))
const says = computed(() => `Body ${size(outline.body)} in a space of ${size(outline.space)}. ${outline.says}`)
</script>

<template>
  <figure class="mt-3">
    <svg
      :viewBox="`0 0 ${2 * ROOM + GAP + 20} ${ROOM + 34}`"
      role="img"
      :aria-label="says"
      class="w-full max-w-md min-w-60"
      font-size="15"
    >
      <g
        v-for="(view, index) in views"
        :key="view.name"
        :transform="`translate(${10 + ROOM / 2 + index * (ROOM + GAP)} ${view.bottom ? ROOM + 6 : ROOM / 2 + 6})`"
      >
        <rect
          :x="(-outline.space[view.wide] / 2) * scale"
          :y="(view.bottom ? -outline.space[view.tall] : -outline.space[view.tall] / 2) * scale"
          :width="outline.space[view.wide] * scale"
          :height="outline.space[view.tall] * scale"
          class="fill-sheet stroke-slate5"
          stroke-dasharray="4 3"
        />
        <rect
          :x="(-body[view.wide] / 2) * scale"
          :y="(view.bottom ? -body[view.tall] : -body[view.tall] / 2) * scale"
          :width="body[view.wide] * scale"
          :height="body[view.tall] * scale"
          :class="outline.over ? 'fill-danger-w stroke-danger' : 'fill-tide-w stroke-tide'"
          fill-opacity="0.75"
          stroke-width="1.6"
        />
        <template v-if="!view.bottom">
          <circle
            v-for="hole in holes"
            :key="`h${hole}`"
            :cx="hole * scale"
            cy="0"
            r="4"
            class="fill-none stroke-ink"
          />
          <circle
            v-for="hole in others"
            :key="`o${hole}`"
            :cx="hole * scale"
            cy="0"
            r="3"
            class="fill-none stroke-slate5"
            stroke-dasharray="2 2"
          />
          <circle v-for="lead in leads" :key="lead" :cx="lead * scale" cy="0" r="2" class="fill-ink" />
        </template>
        <text :y="view.bottom ? 18 : ROOM / 2 + 18" text-anchor="middle" class="fill-slate5">{{ view.name }}</text>
      </g>
    </svg>
    <figcaption class="text-small text-slate7">
      {{ size(outline.body) }} in {{ size(outline.space) }}: {{ outline.says }}
      <template v-if="outline.wanted_pitch"
        >Rings are the board’s holes<template v-if="others.length">, dashed ones its other holes</template>, dots the
        leads.</template
      >
    </figcaption>
  </figure>
</template>
