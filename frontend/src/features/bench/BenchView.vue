<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue'
import { useShortcuts } from '@/app/shortcuts'
import ReadingBox from '@/features/reading/ReadingBox.vue'
import ActionButton from '@/ui/ActionButton.vue'
import BenchRow from './BenchRow.vue'
import { useBench } from './queries'

const NewJobDialog = defineAsyncComponent(() => import('@/features/job/NewJobDialog.vue'))
const { data: sheets, error } = useBench()
const opening = ref(false)
const BENCHES = [
  { to: '/dropper', title: 'Dropper bench' },
  { to: '/supply', title: 'Supply bench' },
  { to: '/may-replace', title: 'May this replace that?' },
  { to: '/seen-before', title: 'Seen before' },
]
useShortcuts({ j: () => (opening.value = true) })
</script>

<template>
  <main class="pb-10">
    <h1 class="sr-only">Bench</h1>
    <ReadingBox large class="px-5 pt-6" />
    <h2 class="mt-6 px-5 pb-2 text-small font-semibold text-slate7">Open jobs</h2>
    <ul v-if="sheets?.length" class="border-t border-slate2">
      <BenchRow v-for="sheet in sheets" :key="sheet.job.id" :sheet />
    </ul>
    <p v-else-if="sheets" class="border-y border-slate2 px-5 py-6">
      The bench is empty. Open a job for the first piece of equipment, or type a marking above.
    </p>
    <p v-else-if="error" class="px-5" role="alert">{{ error.message }}</p>
    <div class="flex flex-wrap items-center gap-x-6 gap-y-2 px-5 pt-5">
      <ActionButton primary hint="j" @click="opening = true">New job</ActionButton>
      <RouterLink
        v-for="bench in BENCHES"
        :key="bench.to"
        class="inline-flex min-h-11 items-center underline decoration-slate3 underline-offset-4"
        :to="bench.to"
        >{{ bench.title }}</RouterLink
      >
    </div>
    <NewJobDialog v-if="opening" @close="opening = false" />
  </main>
</template>
