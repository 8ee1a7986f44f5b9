<script setup lang="ts">
import type { Schemas } from '@/api/client'
import FittingList from './FittingList.vue'

/** The list to tick while a part is fitted. */
defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
</script>

<template>
  <FittingList v-if="position" :key="position.id" :position />
  <section v-else class="p-5" aria-label="Fit">Name a position first.</section>
</template>
