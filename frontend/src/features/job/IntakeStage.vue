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
  <section class="max-w-3xl p-5" aria-label="Intake">
    <p v-if="!sheet.positions.length" class="mb-5 border-l-4 border-ochre bg-sheet px-3 py-2">
      Name the first position: <kbd class="font-mono">n</kbd>, or type its marking with <kbd class="font-mono">/</kbd>.
    </p>
    <CameBack :job-id="sheet.job.id" />
    <JobForm v-if="words" :key="sheet.job.id" :job="sheet.job" :words @saved="kept = true" />
    <SeenBefore class="mt-8" :job-id="sheet.job.id" />
    <p v-if="kept" class="mt-3 text-tide" role="status">Kept.</p>
  </section>
</template>
