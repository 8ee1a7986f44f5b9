<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { ZONE_FILLS } from '@/ui/verdicts'

/** Where a reading lies on what its capacitance may be: each zone says in words what it means. */
const { bar, name } = defineProps<{ bar: Schemas['BarOut']; name: string }>()
const per = (share: number) => `${(share * 100).toFixed(2)}%`
const anchor = (share: number) => (share < 0.12 ? 'start' : share > 0.88 ? 'end' : 'middle')
const CLOSE = 0.3 // of the bar: two labels nearer than this lean away from each other
const edges = computed(() => {
  const inner = bar.zones.slice(0, -1).map((zone) => ({ at: zone.start + zone.width, edge: zone.edge }))
  const near = (one?: { at: number }, other?: { at: number }) =>
    one !== undefined && other !== undefined && Math.abs(one.at - other.at) < CLOSE
  return inner.map((edge, index) => ({
    ...edge,
    anchor:
      near(edge, inner[index + 1]) && !near(edge, inner[index - 1])
        ? 'end'
        : near(edge, inner[index - 1])
          ? 'start'
          : 'middle',
  }))
})
const said = computed(() => {
  const zones = bar.zones.map((zone) => `${zone.says} up to ${zone.edge.number} ${zone.edge.unit}`).join(', ')
  const read = bar.reading ? `, read ${bar.reading.number} ${bar.reading.unit}` : ', not read yet'
  return `${name}: ${zones}; marked ${bar.marked_value.number} ${bar.marked_value.unit}${read}.`
})
</script>

<template>
  <figure class="mt-4">
    <svg role="img" :aria-label="said" class="h-[6.25rem] w-full overflow-visible" font-size="13">
      <template v-for="zone in bar.zones" :key="zone.says">
        <rect
          :x="per(zone.start)"
          y="26"
          :width="per(zone.width)"
          height="44"
          class="zone"
          :class="ZONE_FILLS[zone.word]"
        />
        <text
          v-if="zone.width > 0.09"
          :x="per(zone.start + zone.width / 2)"
          y="53"
          text-anchor="middle"
          class="fill-slate7 font-semibold"
        >
          {{ zone.says }}
        </text>
      </template>
      <text
        v-for="edge in edges"
        :key="edge.at"
        :x="per(edge.at)"
        y="88"
        :text-anchor="edge.anchor"
        class="fill-slate5 font-mono"
      >
        {{ edge.edge.number }} {{ edge.edge.unit }}
      </text>
      <line
        v-for="y in [20, 66]"
        :key="y"
        :x1="per(bar.marked)"
        :x2="per(bar.marked)"
        :y1="y"
        :y2="y + 10"
        class="stroke-slate5"
        stroke-width="3"
      />
      <template v-if="bar.reading && bar.at !== null && bar.low !== null && bar.high !== null">
        <rect
          :x="per(bar.low)"
          y="20"
          :width="per(Math.max(bar.high - bar.low, 0.002))"
          height="56"
          class="fill-ink/20"
        />
        <line :x1="per(bar.at)" :x2="per(bar.at)" y1="20" y2="76" class="stroke-ink" stroke-width="3" />
        <text :x="per(bar.at)" y="14" :text-anchor="anchor(bar.at)" class="fill-ink font-mono font-medium">
          {{ bar.reading.number }} {{ bar.reading.unit }} read
        </text>
      </template>
      <text v-else :x="per(bar.marked)" y="14" :text-anchor="anchor(bar.marked)" class="fill-slate5 font-mono">
        {{ bar.marked_value.number }} {{ bar.marked_value.unit }} marked
      </text>
    </svg>
    <figcaption class="text-small text-slate5">
      {{ name }}: ticks at the marked value; the shaded band is what the meter leaves open.
    </figcaption>
  </figure>
</template>
