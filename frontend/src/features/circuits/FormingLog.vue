<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useLogForming } from './queries'

/** Puts the step as typed on the record of a position. */
const { positionId, typed } = defineProps<{ positionId: string; typed: Schemas['FormingIn'] }>()
const { write, pending, general } = useLogForming(positionId)
const kept = ref('')
async function log() {
  const answer = await write({ ...typed })
  kept.value = answer ? 'On record.' : ''
}
</script>

<template>
  <div class="mt-3">
    <ActionButton :disabled="pending" @click="log">Put this step on record</ActionButton>
    <span role="status" class="ml-3">{{ kept }}</span>
    <ProblemNote v-if="general" :sentence="general" />
  </div>
</template>
