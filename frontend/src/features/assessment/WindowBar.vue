<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { ZONE_FILLS } from '@/ui/verdicts'

/** A reading on its tolerance window, small: the interval as a band, the value as a line. */
const { bar } = defineProps<{ bar: Schemas['BarOut'] }>()
const per = (share: number) => `${(share * 100).toFixed(2)}%`
</script>

<template>
  <svg class="h-6 w-full" aria-hidden="true">
    <rect
      v-for="zone in bar.zones"
      :key="zone.says"
      :x="per(zone.start)"
      y="6"
      :width="per(zone.width)"
      height="12"
      class="zone"
      :class="ZONE_FILLS[zone.word]"
    />
    <template v-if="bar.at !== null && bar.low !== null && bar.high !== null">
      <rect :x="per(bar.low)" y="3" :width="per(Math.max(bar.high - bar.low, 0.004))" height="18" class="fill-ink/25" />
      <line :x1="per(bar.at)" :x2="per(bar.at)" y1="2" y2="22" class="stroke-ink" stroke-width="2.5" />
    </template>
  </svg>
</template>
