<script setup lang="ts">
import FoldSection from '@/ui/FoldSection.vue'
import WalkBench from './WalkBench.vue'
import { useJobWalk } from './queries'

/** The fault walk of a job's supply: what was read so far stands in it, and what is read next goes on the record. */
const { jobId } = defineProps<{ jobId: string }>()
const { data: found } = useJobWalk(jobId)
</script>

<template>
  <FoldSection
    v-if="found"
    title="Fault walk of its supply"
    :says="
      found.begun
        ? (found.walk.suspects[0] ?? 'begun: what is read goes on the record')
        : 'from the inlet, each reading on the record'
    "
  >
    <WalkBench :job-id="jobId" :start="found.typed" />
  </FoldSection>
</template>
