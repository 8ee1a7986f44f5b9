<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import { computed, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { waiting } from '@/api/outbox'
import { useVocabulary } from '@/api/vocabulary'
import { useShortcuts } from '@/app/shortcuts'
import { sayCharge } from '@/ui/charge'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import ReasonAside from '@/ui/ReasonAside.vue'
import StageSheet from '@/ui/StageSheet.vue'
import BleederPanel from './BleederPanel.vue'
import CanHold from './CanHold.vue'
import EmptyBox from './EmptyBox.vue'
import FallPanel from './FallPanel.vue'
import PinsPanel from './PinsPanel.vue'
import SeveralPanel from './SeveralPanel.vue'
import ProofPanel from './ProofPanel.vue'
import OtherTools from './OtherTools.vue'
import SurroundingsDialog from './SurroundingsDialog.vue'
import ToolsTable from './ToolsTable.vue'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useNoteCharges, usePlan } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** What a position can hold, how to empty it, watching it fall, and the proof that it is empty. */
const { sheet, position } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: plan, error } = usePlan(position?.id ?? '', position !== undefined)
const { data: words } = useVocabulary()
const { note: noteCharge, at, general } = useNoteCharges(position?.id ?? '')
const box = useTemplateRef('box')
const note = (body: Partial<Schemas['ChargeIn']> & Pick<Schemas['ChargeIn'], 'state'>) =>
  noteCharge({ ...UNSAID, ...body } as Schemas['ChargeIn'])
const item = computed(() => sheet.charge_line.find((known) => known.position_id === position?.id))
const state = computed(() => item.value?.state)
const circuit = ref(false)
const UNSAID = { shape: 'single', resistor_ids: [], other_way: '', ac_before: '', place: '', link_off: false }
useShortcuts({ c: () => (circuit.value = true) })
const fallWaits = computed(() => waiting.value.some((one) => one.url === `/api/positions/${position?.id}/fall`))
const toProve = computed(() => ['emptying', 'lapsed', 'link_off'].includes(state.value ?? ''))

const reasons = computed(() => {
  const found = plan.value
  const charge = found?.charge
  if (!found || !charge) return []
  return [
    ...charge.cautions.map((sentence) => ({ sentence, grave: true })),
    { sentence: found.recharged },
    { sentence: charge.explanation, source: 'The marked value is used even when a reading is lower.' },
    { sentence: charge.band_sentence, source: charge.source },
    {
      sentence: `Working limit ${found.working_limit?.number} ${found.working_limit?.unit}.`,
      source: found.working_limit_source,
    },
    {
      sentence: `For this capacitance ES1 ends at ${charge.touch_limit.number} ${charge.touch_limit.unit}, ES2 at ${charge.es2_limit.number} ${charge.es2_limit.unit}. It holds ${charge.charge.number} ${charge.charge.unit}.`,
      source: 'IEC 62368-1 table 5; check the edition that binds you',
    },
    ...(found.rebound
      ? [{ sentence: found.rebound.sentence, details: [found.rebound.dielectric], source: found.rebound.source }]
      : []),
  ]
})
</script>

<template>
  <StageSheet label="Discharge" :position>
    <WaitingShape :when="!plan && !error" />
    <template v-if="plan?.charge && position">
      <ProblemNote v-if="state === 'rising'" class="mb-4" :sentence="item?.caution" />
      <CanHold :plan :charge="plan.charge" :position @circuit="circuit = true" />
      <div class="2xl:grid 2xl:grid-cols-2 2xl:items-start 2xl:gap-x-10">
        <div>
          <EmptyBox
            ref="box"
            :best="plan.best ?? null"
            :state
            :points="plan.points"
            :shorted="Boolean(plan.proof?.hidden)"
            :sequence="item?.sequence ?? 0"
            :ac-error="at('ac_before')"
            @note="note"
          />
          <ProblemNote class="mt-3" :sentence="general" />
          <p v-if="item?.sequence" class="mt-2 flex flex-wrap items-center gap-x-3 text-small text-slate7">
            Noted: {{ sayCharge(item) }}, {{ item.by_name }}
            <StrikeLine :sequence="item.sequence" :what="`the note “${sayCharge(item)}”`" />
          </p>
          <p
            v-if="
              plan.rebound?.store_shorted && state !== 'unknown' && state !== 'energised' && state !== 'kept_shorted'
            "
            class="mt-4 border-l-[3px] border-ochre px-4 font-semibold"
          >
            {{ plan.rebound.sentence }}
          </p>
          <p
            v-if="state === 'proved'"
            class="mt-4 border-l-[3px] border-tide bg-tide-w px-4 py-3 text-lead font-semibold"
          >
            {{ position.name }} {{ sayCharge(item!) }}. Next:
            <RouterLink class="underline" :to="sheetOf(sheet.job.id, 'assess', position.id)">measure it</RouterLink>
          </p>
          <FallPanel
            v-if="plan.proof"
            :position-id="position.id"
            :watching="state === 'emptying' || (state === 'unknown' && fallWaits)"
            :meters="plan.proof.meters"
          />
        </div>
        <div>
          <ProofPanel
            v-if="plan.proof"
            :key="plan.proof.pairs.join()"
            :position-id="position.id"
            :proof="plan.proof"
            :primary="toProve"
            :since="item?.sequence ?? 0"
            :noted-at="item?.at ?? ''"
          />
          <SeveralPanel v-if="sheet.positions.length > 1" :job-id="sheet.job.id" />
        </div>
      </div>
      <FoldSection title="Other tools" :says="`${plan.tools.length} judged`" :open="state === 'unknown' || !plan.best">
        <ToolsTable :tools="plan.tools" @use="(tool) => box?.through(tool)" />
      </FoldSection>
      <FoldSection v-if="plan.bleeder && words" title="Bleeder" :says="plan.bleeder.counted">
        <BleederPanel
          :position-id="position.id"
          :bleeder="plan.bleeder"
          :limits="plan.limits"
          :sizes="words.resistor_sizes"
        />
      </FoldSection>
      <FoldSection v-if="plan.reaches_pins" title="Plug pins after unplugging" says="1, 2 and 5 s" open>
        <PinsPanel :job-id="sheet.job.id" :fixed="sheet.job.connection === 'fixed'" />
      </FoldSection>
      <FoldSection title="Lamp, load, blade" says="other ways, and why not first">
        <OtherTools :position-id="position.id" :offered="plan.other_tools" />
      </FoldSection>
    </template>
    <template v-else-if="plan">
      <p class="text-lead font-semibold">{{ plan.missing }}</p>
      <button class="mt-2 min-h-11 underline decoration-slate3 underline-offset-4" @click="circuit = true">
        Say what feeds it
      </button>
    </template>
    <ProblemNote v-else-if="error" :sentence="error.message" />
    <SurroundingsDialog v-if="circuit && position && words" :position :words @close="circuit = false" />
    <template #aside><ReasonAside title="Why" :reasons /></template>
  </StageSheet>
</template>
