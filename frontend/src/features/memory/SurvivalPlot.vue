<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** The share that still works against age, as steps with their band; what it says stands beside it in words. */
const { steps, title } = defineProps<{ steps: Schemas['SurvivingOut'][]; title: string }>()
const WIDE = 320
const TALL = 120
const last = computed(() => Math.max(...steps.map((step) => step.years), 1))
const x = (years: number) => 28 + (years / last.value) * (WIDE - 36)
const y = (share: number) => 8 + (1 - share / 100) * (TALL - 28)
/** A line that falls at each age: straight on, then down. */
const stairs = (pick: (step: Schemas['SurvivingOut']) => number) =>
  steps.reduce((path, step) => `${path}H${x(step.years)}V${y(pick(step))}`, `M${x(0)} ${y(100)}`)
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDE} ${TALL}`"
    class="w-full max-w-md"
    role="img"
    :aria-label="`Share of ${title} still working against age`"
    font-size="10"
  >
    <path :d="stairs((step) => step.low)" class="fill-none stroke-slate3" stroke-dasharray="3 3" />
    <path :d="stairs((step) => step.high)" class="fill-none stroke-slate3" stroke-dasharray="3 3" />
    <path :d="stairs((step) => step.share)" class="fill-none stroke-ink" stroke-width="2" />
    <text v-for="share in [0, 50, 100]" :key="share" x="22" :y="y(share) + 3" text-anchor="end" class="fill-slate5">
      {{ share }}
    </text>
    <text :x="x(0)" :y="TALL - 6" class="fill-slate5">0</text>
    <text :x="x(last)" :y="TALL - 6" text-anchor="end" class="fill-slate5">{{ Math.round(last) }} years</text>
  </svg>
</template>
