<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import FoldSection from '@/ui/FoldSection.vue'
import SupplyBench from './SupplyBench.vue'

/** The supply bench with the values of a position in it. */
const { job, position } = defineProps<{ job: Schemas['JobOut']; position: Schemas['SheetPosition'] }>()
const start = computed(() => {
  const reservoir = position.read.capacitance[0]
  return {
    mains: job.supply_voltage,
    supply_frequency: job.supply_frequency,
    secondary: position.surroundings.voltage,
    ...(reservoir ? { reservoir: `${reservoir.number} ${reservoir.unit}` } : {}),
  }
})
</script>

<template>
  <FoldSection title="Supply bench" says="may its reservoir grow?">
    <p class="text-small text-slate7">What this job does not know stands here as an example: type what is there.</p>
    <SupplyBench :start="start" />
  </FoldSection>
</template>
