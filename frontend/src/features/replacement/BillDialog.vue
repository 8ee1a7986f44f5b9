<script setup lang="ts">
import { shallowRef } from 'vue'
import ActionButton from '@/ui/ActionButton.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useBill } from './queries'

/** A job's bill of materials from a spreadsheet: seen first, then taken whole; and as a sheet of its own. */
const { jobId } = defineProps<{ jobId: string }>()
const emit = defineEmits<{ close: [] }>()
const file = shallowRef<File>()
const { seen, preview, take, pending, sentence } = useBill(jobId)
async function look(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0]
  if (file.value) await preview(file.value)
}
async function takeIt() {
  if (file.value && (await take(file.value))) emit('close')
}
</script>

<template>
  <ModalDialog title="Bill of materials" @close="emit('close')">
    <p class="mt-2 text-slate7">
      A CSV file whose first line names the columns: name, marking, role, pitch and so on.
      <a class="underline underline-offset-2" :href="`/api/jobs/${jobId}/bill.csv`">This job as such a file</a>
    </p>
    <label class="mt-4 block">
      <span class="block text-small font-semibold text-slate7">The file</span>
      <input type="file" accept=".csv,text/csv,text/plain" class="mt-1 min-h-11 w-full py-2" @change="look" />
    </label>
    <ProblemNote class="mt-2" :sentence="sentence" />
    <template v-if="seen">
      <ul class="mt-3" aria-label="What it would do">
        <li v-for="line in seen.adds" :key="`a${line}`" class="border-t border-slate2 py-1">new {{ line }}</li>
        <li v-for="line in seen.changes" :key="`c${line}`" class="border-t border-slate2 py-1">changed {{ line }}</li>
        <li v-for="row in seen.refused" :key="`r${row.line}`" class="border-t border-slate2 py-1 font-semibold">
          line {{ row.line }}, {{ row.column }}: {{ row.sentence }}
        </li>
      </ul>
      <p v-if="seen.same" class="mt-1 text-small text-slate5">{{ seen.same }} as they are.</p>
      <p v-if="seen.unknown.length" class="mt-1 text-small text-slate5">
        Columns nobody knows here, left out: {{ seen.unknown.join(', ') }}.
      </p>
    </template>
    <div class="mt-4 flex gap-3">
      <ActionButton
        primary
        :disabled="pending || !seen || seen.refused.length > 0 || seen.adds.length + seen.changes.length === 0"
        @click="takeIt"
        >Take it, all of it</ActionButton
      >
      <ActionButton @click="emit('close')">Close</ActionButton>
    </div>
  </ModalDialog>
</template>
