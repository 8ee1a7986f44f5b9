<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import CameBack from '@/features/memory/CameBack.vue'
import SeenBefore from '@/features/memory/SeenBefore.vue'
import JobForm from './JobForm.vue'

defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: words } = useVocabulary()
const kept = ref(false)
</script>

<template>
  <section
    class="grid grid-cols-1 items-start gap-x-10 p-5 2xl:grid-cols-[minmax(0,48rem)_minmax(0,1fr)] 2xl:grid-rows-[auto_1fr]"
    aria-label="Intake"
  >
    <CameBack class="max-w-3xl 2xl:order-last" :job-id="sheet.job.id" />
    <div class="max-w-3xl 2xl:row-span-2">
      <p v-if="!sheet.positions.length" class="mb-5 border-l-4 border-ochre bg-sheet px-3 py-2">
        Name the first position: <kbd class="font-mono">n</kbd>, or type its marking with
        <kbd class="font-mono">/</kbd>.
      </p>
      <JobForm v-if="words" :key="sheet.job.id" :job="sheet.job" :words @saved="kept = true" />
      <p v-if="kept" class="mt-3 text-tide" role="status">Kept.</p>
    </div>
    <SeenBefore class="mt-8 max-w-3xl 2xl:order-last 2xl:mt-0" :job-id="sheet.job.id" />
  </section>
</template>
