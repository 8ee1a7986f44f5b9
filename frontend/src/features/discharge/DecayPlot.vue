<script setup lang="ts">
import uPlot from 'uplot'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import LinePlot from '@/ui/LinePlot.vue'

/** Voltage against time: readings, fitted curve with its band, and the targets; and the same as a table. */
const { fall } = defineProps<{ fall: Schemas['FallOut'] }>()
const LINES = [
  { colour: 'ochre' },
  { colour: 'ochre', hidden: true },
  { colour: 'ochre', hidden: true },
  { colour: 'ink', dots: true },
]
const data = computed(() => {
  const points = [fall.samples.map((s) => s.seconds), fall.samples.map((s) => s.volts)] as uPlot.AlignedData
  const c = fall.curve
  const curve = (c ? [c.seconds, c.volts, c.high, c.low] : [[0], [null], [null], [null]]) as uPlot.AlignedData
  return uPlot.join([curve, points])
})
const levels = computed(() =>
  fall.ground.targets.map((target) => ({ name: `${target.name} ${target.volts.toFixed(0)} V`, value: target.volts })),
)
</script>

<template>
  <figure>
    <LinePlot
      :data
      :lines="LINES"
      :says="`Plot of ${fall.samples.length} readings. ${fall.sentence}`"
      x-label="seconds"
      y-label="volts"
      :levels
      :marks="fall.stopped_at === null ? [] : [{ name: 'stop', x: fall.stopped_at, grave: true }]"
      :band="{ between: [2, 3], colour: 'ochre-w' }"
    />
    <figcaption class="text-small text-slate5">
      Dots are readings; the line is the fitted fall with its 95 % band; dashed are the targets.
    </figcaption>
    <details class="mt-1 text-small">
      <summary class="min-h-11 py-3">Readings as a table</summary>
      <table class="text-left tabular-nums">
        <thead class="text-slate5">
          <tr>
            <th class="pr-6 font-normal">seconds</th>
            <th class="font-normal">volts</th>
          </tr>
        </thead>
        <tbody class="font-mono">
          <tr v-for="sample in fall.samples" :key="sample.seconds">
            <td class="pr-6">{{ sample.seconds }}</td>
            <td>{{ sample.volts }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </figure>
</template>
