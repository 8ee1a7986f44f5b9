<script setup lang="ts">
import { computed } from 'vue'
import { opening, workedHere, writtenWithin } from '@/api/device'

/** Says of an answer that no server gave it, or that the rules are being opened for it. */
const { of: answer } = defineProps<{ of: unknown }>()
const unsent = computed(() => {
  const { length } = writtenWithin(answer)
  return length ? ` With ${length} ${length === 1 ? 'entry' : 'entries'} not sent yet.` : ''
})
const says = computed(() =>
  workedHere(answer)
    ? workedHere(answer) + unsent.value
    : opening.value
      ? 'The rules are being opened on this device.'
      : '',
)
</script>

<template>
  <p v-if="says" class="border-l-[3px] border-ochre bg-ochre-w px-2 py-1 text-small" role="status">{{ says }}</p>
</template>
