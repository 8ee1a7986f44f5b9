<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { VERDICTS } from './verdicts'

/** A feather for each word: whole, half, broken, struck, dotted; always with the word for those who cannot see it. */
const { word } = defineProps<{ word: Schemas['Word']; large?: boolean }>()
const FEATHER = 'M4 28C3 14 13 4 28 4c0 15-9 24-22 23Z'
</script>

<template>
  <svg
    viewBox="0 0 32 32"
    role="img"
    :aria-label="VERDICTS[word].title"
    :class="[VERDICTS[word].colour, large ? 'size-14' : 'size-6']"
    fill="none"
    stroke="currentColor"
    stroke-width="2.2"
    stroke-linecap="round"
  >
    <template v-if="word === 'keep'">
      <path :d="FEATHER" fill="currentColor" />
      <path d="M8 24 22 10" stroke="var(--paper)" />
    </template>
    <template v-else-if="word === 'watch'">
      <path :d="FEATHER" />
      <path d="M4 28C3 14 13 4 28 4Z" fill="currentColor" />
    </template>
    <template v-else-if="word === 'replace'">
      <path :d="FEATHER" stroke-dasharray="19 6" stroke-width="3" />
      <path d="m8 24 4-4" />
    </template>
    <template v-else-if="word === 'condemn'">
      <path :d="FEATHER" />
      <path d="M3 5 29 29" stroke-width="3.4" />
    </template>
    <path v-else :d="FEATHER" stroke-dasharray="0.1 4.2" stroke-width="2.6" />
  </svg>
</template>
