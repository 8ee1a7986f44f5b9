<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import StrikeLine from '@/features/record/StrikeLine.vue'

/** What was read beside what was expected, drawn as it goes, and as a table. */
const { log, steps } = defineProps<{ log: Schemas['LoggedOut'][]; steps: Schemas['StepOut'][] }>()
const WIDE = 320
const TALL = 150
const top = computed(() =>
  Math.max(...log.map((row) => row.current?.value ?? 0), ...steps.map((step) => step.stop?.value ?? 0), 1e-9),
)
const x = (percent: number) => 30 + (percent / 100) * (WIDE - 40)
const y = (amperes: number) => TALL - 22 - (amperes / top.value) * (TALL - 34)
const line = (pick: (step: Schemas['StepOut']) => number | undefined) =>
  steps.flatMap((step) => (pick(step) === undefined ? [] : [`${x(step.percent)},${y(pick(step) ?? 0)}`])).join(' ')
const time = (at: string) => new Date(at).toLocaleTimeString('en-GB')
</script>

<template>
  <figure class="mt-5">
    <svg
      :viewBox="`0 0 ${WIDE} ${TALL}`"
      class="w-full max-w-lg"
      role="img"
      aria-label="Current at each step, expected and measured"
      font-size="10"
    >
      <polyline :points="line((step) => step.stop?.value)" class="fill-none stroke-danger" stroke-dasharray="4 3" />
      <polyline :points="line((step) => step.current?.value)" class="fill-none stroke-slate5" />
      <template v-for="(row, index) in log" :key="index">
        <circle
          v-if="row.current"
          :cx="x(row.percent)"
          :cy="y(row.current.value)"
          r="4"
          :class="row.stop ? 'fill-danger' : 'fill-ink'"
        />
      </template>
      <text
        v-for="step in steps"
        :key="step.percent"
        :x="x(step.percent)"
        :y="TALL - 6"
        text-anchor="middle"
        class="fill-slate5"
      >
        {{ step.percent }}
      </text>
    </svg>
    <figcaption class="text-small text-slate7">
      Current at each step: the line is expected, the dashed one is where to switch off, dots are measured.
    </figcaption>
  </figure>
  <ol class="mt-2" aria-label="What was read at each step">
    <li
      v-for="(row, index) in log"
      :key="index"
      class="grid grid-cols-[4rem_minmax(0,1fr)] gap-x-3 border-t border-slate2 py-1.5"
    >
      <span class="font-mono text-lead">{{ row.percent }} %</span>
      <span>
        <template v-if="row.rail">{{ row.rail.number }} {{ row.rail.unit }}, </template>
        <template v-if="row.current"
          >{{ row.current.number }} {{ row.current.unit
          }}<template v-if="row.expected"> for {{ row.expected.number }} {{ row.expected.unit }}</template
          >.
        </template>
        {{ row.note }}
        <span class="block" :class="row.stop ? 'font-semibold text-danger' : 'text-slate7'">{{ row.says }}</span>
        <span class="text-small text-slate5"
          >{{ row.by_name }}, {{ time(row.at)
          }}<template v-if="row.limiter">, through {{ row.limiter }}</template></span
        >
        <StrikeLine :sequence="row.sequence" :what="`the step at ${row.percent} %`" />
      </span>
    </li>
  </ol>
</template>
