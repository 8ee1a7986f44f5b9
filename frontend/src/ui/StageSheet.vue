<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** The sheet of a stage for one position: work in the middle, reasons at the right. */
defineProps<{ label: string; position?: Schemas['SheetPosition'] }>()
</script>

<template>
  <div class="xl:grid xl:grid-cols-[minmax(0,1fr)_17.500rem]">
    <section class="min-w-0 p-5" :aria-label="label">
      <slot v-if="position" />
      <p v-else class="text-lead">Name a position first: <kbd class="font-mono">n</kbd></p>
    </section>
    <div v-if="position" class="border-slate2 p-5 max-xl:border-t xl:border-l"><slot name="aside" /></div>
  </div>
</template>
