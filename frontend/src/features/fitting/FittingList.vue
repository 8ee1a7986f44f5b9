<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/app/shortcuts'
import { clockTime } from '@/api/measures'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import PhotoView from '@/features/asfound/PhotoView.vue'
import { useFound } from '@/features/asfound/queries'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useFitting, useTakeOut, useTicks } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** One line for each thing to do, the next one marked; initials stand beside what was done. Ticks are sent one after another. */
const { position } = defineProps<{ position: Schemas['SheetPosition']; caution: string }>()
const { data: found, error } = useFitting(position.id)
const problem = ref<Schemas['Problem']>()
const looked = ref<Schemas['ShownOut']>()
const { data: map } = useFound(position.job_id)
const photo = computed(() => map.value?.photos.find((known) => known.id === looked.value?.photo_id))
const { entered, put, mend } = useTicks(position.id, (row) => {
  problem.value = row.refused
  mend(row.key)
})
const waits = computed(() => new Map(entered.value.map((row) => [row.line.line, row.line.done])))
function tick(line: string, done: boolean) {
  problem.value = undefined
  put({ line, done, note: '' })
}
const { write: takeOut, pending: taking, general: notTaken } = useTakeOut(position.id)
const lines = computed(() =>
  (found.value?.lines ?? []).map((line) => ({ ...line, ticked: waits.value.get(line.id) ?? line.done })),
)
const done = computed(() => lines.value.filter((line) => line.ticked).length)
const next = computed(() => lines.value.find((line) => !line.ticked))
const toTakeOut = computed(() => lines.value.length > 0 && position.choice?.stands && !position.choice.out_at)
useShortcuts({
  t: () => {
    if (toTakeOut.value) void (taking.value || takeOut(null))
    else if (next.value) tick(next.value.id, true)
  },
})
</script>

<template>
  <section class="max-w-3xl p-5" aria-label="Fit">
    <ProblemNote v-if="error" :sentence="error.message" />
    <WaitingShape :when="!found && !error" :rows="5" />
    <template v-if="found">
      <p
        v-if="!lines.length"
        class="flex flex-wrap items-center gap-x-4 border-l-[3px] border-ochre bg-sheet px-3 py-2"
      >
        {{ found.missing }}
        <RouterLink
          class="inline-flex min-h-11 items-center font-semibold underline decoration-slate3 underline-offset-4"
          :to="sheetOf(position.job_id, 'replace', position.id)"
          >Choose it</RouterLink
        >
      </p>
      <template v-else>
        <p class="flex flex-wrap items-baseline gap-x-5">
          <strong class="font-mono text-number font-medium"
            >{{ done }}<span class="text-value font-light text-slate5"> of {{ lines.length }}</span></strong
          >
          <span class="text-lead"
            ><span class="font-mono">{{ found.part }}</span
            ><span v-if="found.lot" class="text-slate5">, lot {{ found.lot }}</span></span
          >
        </p>
        <p
          v-if="found.fitted_at"
          class="mt-2 border-l-[6px] border-tide bg-tide-w px-4 py-2 text-lead font-semibold"
          role="status"
        >
          {{ position.choice?.stands ? 'Fitted' : 'Done' }}: every line is ticked.
        </p>
        <div
          v-if="toTakeOut"
          class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-[3px] border-ochre bg-ochre-w px-3 py-2"
        >
          <span>{{ found.missing }}</span>
          <ActionButton primary hint="t" :disabled="taking" @click="takeOut(null)"
            >Take it out of the drawer</ActionButton
          >
        </div>
        <p
          v-if="caution && !found.fitted_at"
          class="mt-2 flex flex-wrap items-center gap-x-4 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold"
        >
          {{ problem?.detail ?? caution }}
          <RouterLink
            class="inline-flex min-h-11 items-center underline underline-offset-4"
            :to="sheetOf(position.job_id, 'discharge', position.id)"
            >Prove it</RouterLink
          >
        </p>
        <ProblemNote class="mt-2" :sentence="(caution && !found.fitted_at ? '' : problem?.detail) || notTaken" />
        <ol class="mt-4" aria-label="To do while it is fitted">
          <li
            v-for="line in lines"
            :key="line.id"
            class="border-t border-slate2"
            :class="line === next ? 'bg-sheet' : ''"
          >
            <label class="flex min-h-12 items-start gap-4 px-2 py-2.5">
              <input
                type="checkbox"
                class="mt-0.5 size-6 shrink-0 accent-ochre"
                :checked="line.ticked"
                :disabled="toTakeOut"
                @change="tick(line.id, !line.ticked)"
              />
              <span
                class="flex-1"
                :class="line.ticked ? 'text-slate5' : line === next ? 'text-lead font-semibold' : ''"
                >{{ line.sentence }}</span
              >
              <button
                v-for="shown in line.photos.slice(0, 1)"
                :key="shown.photo_id"
                type="button"
                class="relative h-12 w-16 shrink-0 overflow-hidden bg-slate1"
                :aria-label="`Its photo: ${shown.label}`"
                @click.prevent="looked = shown"
              >
                <img class="size-full object-fill" :src="`/api/photos/${shown.photo_id}/small`" alt="" loading="lazy" />
                <span
                  class="absolute size-3 -translate-1/2 rounded-full border-2 border-paper bg-ochre"
                  :style="{ left: `${100 * shown.x}%`, top: `${100 * shown.y}%` }"
                />
              </button>
              <span v-if="line.ticked !== line.done" class="text-small text-slate5">saving</span>
              <span v-else-if="line.done && line.at" class="text-right font-mono text-slate7" :title="line.by_name"
                >{{ line.initials }}<span class="block text-small text-slate5">{{ clockTime(line.at) }}</span></span
              >
              <kbd
                v-else-if="line === next && !toTakeOut"
                class="rounded-xs border border-slate3 px-1.5 font-mono text-small max-sm:hidden"
                aria-hidden="true"
                >t</kbd
              >
            </label>
            <StrikeLine v-if="line.done" class="ml-10" :sequence="line.sequence" :what="`tick of ${line.sentence}`" />
          </li>
        </ol>
        <ModalDialog v-if="looked && photo" :title="looked.label" wide @close="looked = undefined">
          <PhotoView :photo :points="[looked]" :from="looked" />
          <ActionButton class="mt-4" @click="looked = undefined">Close</ActionButton>
        </ModalDialog>
      </template>
    </template>
  </section>
</template>
