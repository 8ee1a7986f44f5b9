<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import uPlot from 'uplot'
import 'uplot/dist/uPlot.min.css'
import { computed, onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { dark } from '@/app/theme'

/** Voltage against time: readings, fitted curve with its band, and the targets; and the same as a table. */
const { fall } = defineProps<{ fall: Schemas['FallOut'] }>()
const place = useTemplateRef('place')
const HEIGHT = 220
let plot: uPlot | undefined

const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()
const data = computed(() => {
  const points = [fall.samples.map((s) => s.seconds), fall.samples.map((s) => s.volts)] as uPlot.AlignedData
  const c = fall.curve
  const curve = (c ? [c.seconds, c.volts, c.high, c.low] : [[0], [null], [null], [null]]) as uPlot.AlignedData
  return uPlot.join([curve, points])
})

function drawTargets(u: uPlot) {
  const { ctx, bbox } = u
  ctx.save()
  ctx.strokeStyle = colour('tide')
  ctx.fillStyle = colour('tide')
  ctx.setLineDash([4, 4])
  ctx.font = `${12 * devicePixelRatio}px 'Commissioner Variable', sans-serif`
  ctx.textBaseline = 'bottom'
  fall.targets.forEach((target, index) => {
    const y = u.valToPos(target.volts, 'y', true)
    ctx.beginPath()
    ctx.moveTo(bbox.left, y)
    ctx.lineTo(bbox.left + bbox.width, y)
    ctx.stroke()
    // The lowest target is named at the left, so that two close lines can both be read.
    const atLeft = index === fall.targets.length - 1
    ctx.textAlign = atLeft ? 'left' : 'right'
    const x = atLeft ? bbox.left + 8 : bbox.left + bbox.width - 4
    ctx.fillText(`${target.name} ${target.volts.toFixed(0)} V`, x, y - 2 * devicePixelRatio)
  })
  ctx.restore()
}

function draw() {
  plot?.destroy()
  if (!place.value) return
  const axis = {
    stroke: colour('slate5'),
    grid: { stroke: colour('slate2'), width: 1 },
    ticks: { stroke: colour('slate2'), width: 1 },
    font: "12px 'Commissioner Variable', sans-serif",
    labelFont: "12px 'Commissioner Variable', sans-serif",
  }
  plot = new uPlot(
    {
      width: place.value.clientWidth,
      height: HEIGHT,
      legend: { show: false },
      cursor: { show: false },
      scales: { x: { time: false }, y: { range: (_u, _low, high) => [0, Math.max(high * 1.05, 10)] } },
      axes: [
        { ...axis, label: 'seconds', labelSize: 18, size: 34 },
        { ...axis, label: 'volts', labelSize: 18, size: 52 },
      ],
      series: [
        {},
        { stroke: colour('ochre'), width: 2, spanGaps: true, points: { show: false } },
        { stroke: 'transparent', spanGaps: true, points: { show: false } },
        { stroke: 'transparent', spanGaps: true, points: { show: false } },
        { stroke: colour('ink'), paths: () => null, points: { show: true, size: 7, fill: colour('ink') } },
      ],
      bands: [{ series: [2, 3], fill: colour('ochre-w') }],
      hooks: { draw: [drawTargets] },
    },
    data.value,
    place.value,
  )
}
onMounted(draw)
watch([data, dark], draw)
useResizeObserver(place, () => place.value && plot?.setSize({ width: place.value.clientWidth, height: HEIGHT }))
onBeforeUnmount(() => plot?.destroy())
</script>

<template>
  <figure>
    <div ref="place" role="img" :aria-label="`Plot of ${fall.samples.length} readings. ${fall.sentence}`" />
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
