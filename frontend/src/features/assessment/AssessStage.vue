<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import { computed, defineAsyncComponent, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import FigureSum from '@/ui/FigureSum.vue'
import FigureValue from '@/ui/FigureValue.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import ReasonAside from '@/ui/ReasonAside.vue'
import StageSheet from '@/ui/StageSheet.vue'
import VerdictMark from '@/ui/VerdictMark.vue'
import { VERDICTS } from '@/ui/verdicts'
import FoldSection from '@/ui/FoldSection.vue'
import BatchPanel from './BatchPanel.vue'
import CommonPanel from './CommonPanel.vue'
import ReadingForm from './ReadingForm.vue'
import ReadingsTable from './ReadingsTable.vue'
import RejudgePanel from './RejudgePanel.vue'
import SignPicker from './SignPicker.vue'
import ToleranceBar from './ToleranceBar.vue'
import TouchPanel from './TouchPanel.vue'
import WaysPanel from './WaysPanel.vue'
import { useAssessment } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** Good or bad: the verdict with its worst reason, the readings behind it, and the next one to take. */
const JobWalk = defineAsyncComponent(() => import('@/features/circuits/JobWalk.vue'))
const CircuitPanels = defineAsyncComponent(() => import('@/features/circuits/CircuitPanels.vue'))
const { sheet, position } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const router = useRouter()
const { data: known, error } = useAssessment(position?.id ?? '', position !== undefined)
const heading = useTemplateRef('verdict') // takes the focus after a reading, so that the next key is the next step
const worst = computed(() => known.value?.verdict.reasons[0])
const next = computed(() => known.value?.verdict.next_measurement ?? undefined)
const caution = computed(() => sheet.charge_line.find((item) => item.position_id === position?.id)?.caution)
const last = computed(() =>
  known.value?.readings.filter((reading) => reading.quantity === 'capacitance' && !reading.struck).at(-1),
)
const replaceable = computed(() => known.value?.verdict.asks_for_another_part ?? false)
const reasons = computed(() =>
  (known.value?.verdict.reasons ?? []).map((reason) => ({
    sentence: reason.sentence,
    details: [reason.reading && `read ${reason.reading}`, reason.limit && `limit ${reason.limit}`],
    source: reason.source,
    grave: reason.word === 'condemn',
  })),
)
const find = () => void router.push(sheetOf(sheet.job.id, 'replace', position?.id))
</script>

<template>
  <StageSheet label="Assess" :position>
    <WaitingShape :when="!known && !error" />
    <template v-if="known && worst && position">
      <p v-if="caution" class="mb-4 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">
        {{ caution }}
        <RouterLink class="underline" :to="sheetOf(sheet.job.id, 'discharge', position.id)">How to empty it</RouterLink>
      </p>
      <div class="flex items-start justify-between gap-x-6 gap-y-3 max-md:flex-wrap" aria-live="polite">
        <div class="flex items-start gap-4">
          <VerdictMark :word="known.verdict.word" large />
          <div>
            <h2 ref="verdict" tabindex="-1" class="text-value leading-tight font-bold outline-none">
              {{ VERDICTS[known.verdict.word].title }} {{ position.name }}
            </h2>
            <p class="mt-1 max-w-xl text-lead">{{ worst.sentence }}</p>
          </div>
        </div>
        <p v-if="last" class="shrink-0 md:text-right">
          <FigureValue :figure="last.value" size="number" />
          <span class="block text-small text-slate5"
            >{{ last.interval }} · marked <FigureSum :figures="position.read.capacitance" size="line"
          /></span>
        </p>
      </div>
      <RejudgePanel v-if="known.recorded && known.differs" :position-id="position.id" :known />
      <WaysPanel v-if="known.ways.length" :ways="known.ways" />
      <ToleranceBar
        v-for="bar in known.bars"
        :key="bar.section"
        :bar
        :name="known.part_names[bar.section] || position.name"
      />
      <div class="mt-5 flex flex-wrap gap-3">
        <ActionButton v-if="replaceable" primary hint="5" @click="find">Find a replacement</ActionButton>
      </div>
      <ReadingForm
        class="mt-6 border-t border-slate2 pt-5"
        :position-id="position.id"
        :parts="known.part_names"
        :role="position.role"
        :primary="!replaceable"
        :next
        :told="next?.sentence === worst.sentence"
        :optional="known.verdict.word !== 'unknown'"
        @judged="heading?.focus()"
      />
      <SignPicker class="mt-6" :position-id="position.id" :seen="known.signs" />
      <FoldSection
        v-if="position.read.capacitance.length === 2"
        title="Which terminal is common?"
        says="from three readings"
      >
        <CommonPanel />
      </FoldSection>
      <TouchPanel v-if="position.role === 'y'" :job-id="sheet.job.id" />
      <CircuitPanels :position-id="position.id" />
      <JobWalk :job-id="sheet.job.id" />
      <BatchPanel v-if="replaceable" :position-id="position.id" />
      <ReadingsTable :readings="known.readings" :parts="known.part_names" />
    </template>
    <ProblemNote v-else-if="error" :sentence="error.message" />
    <template #aside><ReasonAside title="Reasons, worst first" :reasons /></template>
  </StageSheet>
</template>
