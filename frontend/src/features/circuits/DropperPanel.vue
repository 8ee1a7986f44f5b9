<script setup lang="ts">
import FoldSection from '@/ui/FoldSection.vue'
import DropperBench from './DropperBench.vue'
import { useDropperStart } from './queries'

/** The dropper bench with the values of a position in it. */
const { positionId } = defineProps<{ positionId: string }>()
const { data: start } = useDropperStart(positionId)
</script>

<template>
  <FoldSection v-if="start" title="Dropper bench" :says="start.read ? 'with what it reads' : 'with what is marked'">
    <p class="text-small text-slate7">What this job does not know stands here as an example: type what is there.</p>
    <p v-if="start.crosses" class="mt-1 text-lead font-semibold">{{ start.crosses }}</p>
    <DropperBench :key="start.given.capacitance" :start="start.given" />
  </FoldSection>
</template>
