<script setup lang="ts">
import type { Schemas } from '@/api/client'
import FigureValue from './FigureValue.vue'

/** The values of a part's sections, in the order they are printed. */
defineProps<{ figures: Schemas['Figure'][]; size?: 'value' | 'line' }>()
</script>

<template>
  <template v-for="(figure, index) in figures" :key="index">
    <span v-if="index" class="mx-1 text-slate5">+</span><FigureValue :figure :size="size ?? 'value'" />
  </template>
</template>
