<script setup lang="ts">
import { useRouter, type RouteLocationRaw } from 'vue-router'
import { sheetOf } from '@/features/job/stages'
import { useBench } from '@/features/bench/queries'
import ModalDialog from '@/ui/ModalDialog.vue'

/** Where the typed marking goes: on one of the open jobs, or into a look at the drawer. */
const { text } = defineProps<{ text: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const router = useRouter()
const { data: sheets } = useBench()

async function go(to: RouteLocationRaw) {
  emit('done')
  await router.push(to)
}
</script>

<template>
  <ModalDialog :title="`Where does ${text} go?`" @close="emit('close')">
    <ul class="mt-4 border-t border-slate2">
      <li v-for="sheet in sheets" :key="sheet.job.id" class="border-b border-slate2">
        <button
          class="flex min-h-11 w-full items-baseline gap-4 px-2 py-2 text-left hover:bg-sheet"
          @click="go({ ...sheetOf(sheet.job.id, 'intake'), query: { add: text } })"
        >
          <span class="w-8 font-mono text-slate5">{{ sheet.job.number }}</span>
          <span class="font-semibold">On {{ sheet.job.title }}</span>
        </button>
      </li>
      <li>
        <button
          class="min-h-11 w-full px-2 py-2 text-left font-semibold hover:bg-sheet"
          @click="go({ path: '/drawer', query: { words: text.split(' ')[0] ?? '' } })"
        >
          Look in the drawer
        </button>
      </li>
    </ul>
  </ModalDialog>
</template>
