<script setup lang="ts">
import type { Schemas } from '@/api/client'
import DoubtKeys from '@/features/reading/DoubtKeys.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSettle } from './queries'

/** What the marking of the chosen position leaves open: nothing is proved, judged good or put in its place until it is settled. */
const { position } = defineProps<{ position: Schemas['PositionOut'] }>()
const { write, general } = useSettle()
</script>

<template>
  <div v-if="position.read.provisional" class="px-5 pt-4">
    <DoubtKeys :doubts="position.read.doubts" @choose="write({ position, text: $event })" />
    <p class="mt-1 text-small text-slate7">
      {{ position.marking }}: planned with the worst until it is settled; nothing is proved, kept or replaced on it.
    </p>
    <ProblemNote :sentence="general" />
  </div>
</template>
