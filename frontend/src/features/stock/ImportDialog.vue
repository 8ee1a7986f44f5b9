<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, shallowRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useWork } from '@/api/work'
import ActionButton from '@/ui/ActionButton.vue'
import EggMark from '@/ui/EggMark.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import WorkBar from '@/ui/WorkBar.vue'
import UnsettledParts from './UnsettledParts.vue'
import { usePreviewList, useTakeList, useUndoList } from './queries'

/** A stock list from a spreadsheet: seen first, then taken whole, and undone whole. */
const emit = defineEmits<{ close: [] }>()
type Seen = Schemas['ImportOut']
const file = shallowRef<File>()
const { write: preview, at: unreadable } = usePreviewList()
const { write: take, pending, at, general } = useTakeList()
const { write: undo, general: notUndone } = useUndoList()
const looking = useWork<Seen>()
const taking = useWork<Seen>()
const undoing = useWork<Seen>()
const seen = computed(() => looking.answer.value)
const taken = computed(() => taking.answer.value)
const busy = computed(() => [looking, taking, undoing].find((one) => one.running.value))
const refused = computed(
  () =>
    unreadable('file') ||
    at('file') ||
    general.value ||
    notUndone.value ||
    [looking, taking, undoing].map((one) => one.sentence.value).join(''),
)

async function look(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0]
  for (const one of [looking, taking, undoing]) one.watch(undefined)
  if (file.value) looking.watch(await preview(file.value))
}
async function takeIt() {
  if (file.value) taking.watch(await take(file.value))
}
async function undoIt() {
  if (taken.value?.id) undoing.watch(await undo(taken.value.id))
}
const drawer = useQueryClient()
watch([taken, undoing.answer], () => void drawer.invalidateQueries({ queryKey: ['parts'] }))
const COUNTS = [
  { name: 'adds', says: 'new' },
  { name: 'changes', says: 'changed' },
  { name: 'same', says: 'as they are' },
  { name: 'refused', says: 'refused' },
] as const
</script>

<template>
  <ModalDialog title="Import a stock list" wide @close="emit('close')">
    <p class="mt-2 text-slate7">
      A CSV file whose first line names the columns: marking, kind, quantity, place, price and so on. Nothing is changed
      before you have seen what would be.
    </p>
    <label class="mt-4 block">
      <span class="block text-small font-semibold text-slate7">The file</span>
      <input type="file" accept=".csv,text/csv,text/plain" class="mt-1 min-h-11 w-full py-2" @change="look" />
    </label>
    <ProblemNote class="mt-2" :sentence="refused" />
    <WorkBar
      v-if="busy"
      :work="busy.work.value"
      :what="busy === looking ? 'Reading the list' : busy === taking ? 'Taking the list' : 'Undoing it'"
      @stop="busy.stop()"
    />
    <template v-if="seen">
      <dl class="mt-4 grid grid-cols-4 gap-x-4" aria-label="What it would do">
        <div v-for="count in COUNTS" :key="count.name">
          <dd
            class="font-mono text-number font-medium"
            :class="count.name === 'refused' && seen.refused ? 'text-danger' : ''"
          >
            {{ seen[count.name] }}
          </dd>
          <dt class="text-small text-slate5">{{ count.says }}</dt>
        </div>
      </dl>
      <p v-if="seen.unknown?.length" class="mt-3 text-small text-slate7">
        Columns nobody knows here, left out: {{ seen.unknown.join(', ') }}.
      </p>
      <table v-if="seen.rows?.length" class="mt-3 w-full text-left">
        <caption class="pb-1 text-left text-small font-semibold text-slate7">
          Refused
        </caption>
        <thead class="text-small text-slate7">
          <tr>
            <th class="pr-4 font-semibold">Line</th>
            <th class="pr-4 font-semibold">Column</th>
            <th class="font-semibold">Why</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in seen.rows" :key="row.line" class="border-t border-slate2">
            <td class="py-1.5 pr-4 font-mono">{{ row.line }}</td>
            <td class="py-1.5 pr-4">{{ row.column.replaceAll('_', ' ') }}</td>
            <td class="py-1.5 break-words">
              {{ row.sentence }} <span class="text-small text-slate5">{{ row.marking }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <ul v-if="seen.changed?.length" aria-label="Changed" class="mt-3 text-small">
        <li v-for="line in seen.changed.slice(0, 8)" :key="line" class="border-t border-slate2 py-1">{{ line }}</li>
      </ul>
      <ul v-if="seen.added?.length" aria-label="New" class="mt-3 text-small">
        <li v-for="line in seen.added.slice(0, 8)" :key="line" class="border-t border-slate2 py-1">new: {{ line }}</li>
      </ul>
      <p v-if="seen.unsettled?.length && !taken" class="mt-3 flex items-center gap-2">
        <EggMark />{{ seen.unsettled.length }} of them leave open what is printed: they come in, and are listed to be
        settled.
      </p>
      <p v-if="taken" class="mt-4 border-l-[3px] border-tide bg-tide-w px-3 py-2" role="status">
        {{ undoing.answer.value ? 'Undone: the drawer is as it was.' : 'Taken, all of it.' }}
        <button v-if="!undoing.answer.value && !undoing.running.value" class="ml-3 min-h-11 underline" @click="undoIt">
          Undo the whole list
        </button>
      </p>
      <UnsettledParts v-if="taken && !undoing.answer.value" />
      <div v-if="!taken" class="mt-4">
        <ActionButton
          primary
          asks="decide"
          :disabled="pending || taking.running.value || seen.refused > 0 || seen.adds + seen.changes === 0"
          @click="takeIt"
        >
          {{ seen.refused ? 'Mend the refused rows first' : 'Take it, all of it' }}
        </ActionButton>
      </div>
    </template>
    <div class="mt-4"><ActionButton @click="emit('close')">Close</ActionButton></div>
  </ModalDialog>
</template>
