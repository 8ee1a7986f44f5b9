<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import uPlot from 'uplot'
import 'uplot/dist/uPlot.min.css'
import { onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue'
import { dark } from '@/app/theme'

/** Lines and dots over one axis, with levels drawn across; colours are those of the theme, by name. */
const { data, lines, says, xLabel, yLabel, yLabelRight, levels, band, marks } = defineProps<{
  data: uPlot.AlignedData
  lines: { colour: string; dots?: boolean; hidden?: boolean; right?: boolean; dashed?: boolean; stairs?: boolean }[]
  says: string
  xLabel: string
  yLabel: string
  yLabelRight?: string
  levels?: { name: string; value: number; below?: boolean }[]
  marks?: { name: string; x: number; grave?: boolean }[]
  band?: { between: [number, number]; colour: string }
}>()
const place = useTemplateRef('place')
const HEIGHT = 220
const FONT = "12px 'Commissioner Variable', sans-serif"
let plot: uPlot | undefined

const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()

/** A dashed line with its name: levels across, marks upright. */
function drawLevels(u: uPlot) {
  const { ctx, bbox } = u
  ctx.save()
  ctx.strokeStyle = ctx.fillStyle = colour('tide')
  ctx.setLineDash([4, 4])
  ctx.font = `${12 * devicePixelRatio}px 'Commissioner Variable', sans-serif`
  ctx.textBaseline = 'bottom'
  const stroke = (fromX: number, fromY: number, toX: number, toY: number) => {
    ctx.beginPath()
    ctx.moveTo(fromX, fromY)
    ctx.lineTo(toX, toY)
    ctx.stroke()
  }
  levels?.forEach((level, index) => {
    const y = u.valToPos(level.value, 'y', true)
    stroke(bbox.left, y, bbox.left + bbox.width, y)
    // The lowest is named at the left, so that two close lines can both be read.
    const atLeft = index === levels.length - 1 && index > 0
    ctx.textAlign = atLeft ? 'left' : 'right'
    const above = level.below ? -16 : 2
    ctx.fillText(level.name, atLeft ? bbox.left + 8 : bbox.left + bbox.width - 4, y - above * devicePixelRatio)
  })
  marks?.forEach((mark, index) => {
    const x = u.valToPos(mark.x, 'x', true)
    ctx.strokeStyle = ctx.fillStyle = colour(mark.grave ? 'danger' : 'tide')
    stroke(x, bbox.top, x, bbox.top + bbox.height)
    const atTheEnd = x > bbox.left + bbox.width - 60 * devicePixelRatio
    ctx.textAlign = atTheEnd ? 'right' : 'left'
    ctx.fillText(mark.name, x + (atTheEnd ? -4 : 4), bbox.top + (16 + 15 * (index % 3)) * devicePixelRatio)
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
    font: FONT,
    labelFont: FONT,
    labelSize: 18,
  }
  const range = (_u: uPlot, _low: number, high: number): [number, number] => [0, Math.max(high * 1.05, 1e-6)]
  plot = new uPlot(
    {
      width: place.value.clientWidth,
      height: HEIGHT,
      legend: { show: false },
      cursor: { show: false },
      scales: { x: { time: false }, y: { range }, right: { range } },
      axes: [
        { ...axis, label: xLabel, size: 34 },
        { ...axis, label: yLabel, size: 52 },
        ...(yLabelRight ? [{ ...axis, label: yLabelRight, size: 60, scale: 'right', side: 1 as const, grid: {} }] : []),
      ],
      series: [
        {},
        ...lines.map((line) => ({
          stroke: line.hidden ? 'transparent' : colour(line.colour),
          width: 2,
          ...(line.dashed ? { dash: [6, 5] } : {}),
          ...(line.stairs ? { paths: uPlot.paths.stepped?.({ align: 1 }) } : {}),
          spanGaps: true,
          scale: line.right ? 'right' : 'y',
          points: line.dots ? { show: true, size: 7, fill: colour(line.colour) } : { show: false },
          ...(line.dots ? { paths: () => null } : {}),
        })),
      ],
      ...(band ? { bands: [{ series: band.between, fill: colour(band.colour) }] } : {}),
      hooks: { draw: [drawLevels] },
    },
    data,
    place.value,
  )
}
onMounted(draw)
watch([() => data, dark], draw)
useResizeObserver(place, () => place.value && plot?.setSize({ width: place.value.clientWidth, height: HEIGHT }))
onBeforeUnmount(() => plot?.destroy())
</script>

<template>
  <div ref="place" role="img" :aria-label="says" />
</template>
