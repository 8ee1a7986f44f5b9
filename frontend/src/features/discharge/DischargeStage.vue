<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import FigureValue from '@/ui/FigureValue.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import ReasonAside from '@/ui/ReasonAside.vue'
import StageSheet from '@/ui/StageSheet.vue'
import ToolRow from './ToolRow.vue'
import { useNoteCharge, usePlan } from './queries'

/** What a position can hold, and how to empty it. */
const { sheet, position } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: plan, error } = usePlan(position?.id ?? '', position !== undefined)
const { write, pending, general } = useNoteCharge(position?.id ?? '')
const allowed = computed(() => plan.value?.tools.filter((tool) => !tool.refusals.length) ?? [])
const refused = computed(() => plan.value?.tools.filter((tool) => tool.refusals.length) ?? [])
const best = computed(() => allowed.value[0])
const working = computed(() => best.value?.times[0])
const state = computed(() => sheet.charge_line.find((item) => item.position_id === position?.id)?.state)
const empty = (tool?: Schemas['ToolOut']) => tool && write({ state: 'emptying', resistor_id: tool.resistor_id })
useShortcuts({ e: () => void empty(best.value) })

const reasons = computed(() => {
  const charge = plan.value?.charge
  if (!charge) return []
  return [
    ...charge.cautions.map((sentence) => ({ sentence, grave: true })),
    { sentence: charge.explanation, source: 'The marked value is used even when a reading is lower.' },
    { sentence: charge.band_sentence, source: charge.source },
    {
      sentence: `Working limit ${plan.value?.working_limit?.number} ${plan.value?.working_limit?.unit}.`,
      source: plan.value?.working_limit_source,
    },
    {
      sentence: `ES1 touch limit ${charge.touch_limit.number} ${charge.touch_limit.unit} for this capacitance.`,
      source: 'IEC 62368-1 table 5; check the edition that binds you',
    },
  ]
})
</script>

<template>
  <StageSheet label="Discharge" :position>
    <template v-if="plan?.charge && position">
      <h2 class="text-small font-semibold text-slate7">{{ position.name }} can hold</h2>
      <div class="mt-2 flex flex-wrap items-end gap-x-10 gap-y-3">
        <FigureValue :figure="plan.charge.energy" size="number" />
        <p>
          <FigureValue :figure="plan.charge.voltage" />
          <span class="block text-small text-slate5">{{ plan.charge.basis }}</span>
        </p>
        <p class="text-lead font-semibold" :class="plan.charge.grave ? 'text-danger' : ''">
          {{ plan.charge.band_sentence }}
        </p>
      </div>

      <div v-if="best" class="mt-5 border-l-[3px] border-ochre bg-sheet p-4">
        <div class="flex flex-wrap justify-between gap-x-6 gap-y-2">
          <h3 class="text-lead font-semibold">Empty it through {{ best.name }}</h3>
          <p v-if="working" class="text-right">
            <FigureValue :figure="working.nominal" />
            <span class="text-slate5"> to {{ working.target.number }} {{ working.target.unit }}</span>
            <span class="block text-small text-slate5">worst {{ working.worst.number }} {{ working.worst.unit }}</span>
          </p>
        </div>
        <p class="mt-1">
          {{ best.peak.number }} {{ best.peak.unit }} at first touch. It takes {{ best.energy.number }}
          {{ best.energy.unit
          }}<template v-if="best.pulse_limit">
            of the {{ best.pulse_limit.number }} {{ best.pulse_limit.unit }} it stands</template
          >. Chassis clip first, one hand.
        </p>
        <div class="mt-3 flex flex-wrap gap-3">
          <ActionButton primary hint="e" :disabled="pending" @click="empty(best)">Empty with this</ActionButton>
          <ActionButton :disabled="pending || state === 'kept_shorted'" @click="write({ state: 'kept_shorted' })"
            >Kept shorted</ActionButton
          >
          <ActionButton :disabled="pending || state === 'energised'" @click="write({ state: 'energised' })"
            >Energised</ActionButton
          >
        </div>
      </div>
      <p v-else class="mt-5 border-l-[3px] border-danger bg-sheet p-4 text-lead font-semibold">
        No resistor of the workshop may empty this one. The reasons are below.
      </p>
      <ProblemNote class="mt-3" :sentence="general" />

      <div class="mt-6 overflow-x-auto">
        <table v-if="allowed.length" class="w-full min-w-[34rem] text-left">
          <caption class="pb-1 text-left text-small font-semibold text-slate7">
            Time through each resistor: as marked, and with C and R at the top of their tolerance
          </caption>
          <thead class="text-small text-slate5">
            <tr>
              <th class="py-1 font-normal">Resistor</th>
              <th v-for="time in best?.times" :key="time.name" class="py-1 font-normal">
                {{ time.name }} {{ time.target.number }} {{ time.target.unit }}
              </th>
              <th class="py-1 font-normal">if it is still live</th>
            </tr>
          </thead>
          <tbody>
            <ToolRow v-for="tool in allowed" :key="tool.resistor_id" :tool @use="empty(tool)" />
          </tbody>
        </table>
      </div>
      <template v-if="refused.length">
        <h3 class="mt-6 text-small font-semibold text-slate7">Not these</h3>
        <ul>
          <li
            v-for="tool in refused"
            :key="tool.resistor_id"
            class="grid gap-x-4 border-t border-slate2 py-2 sm:grid-cols-[14rem_1fr]"
          >
            <span>{{ tool.name }}</span><span class="text-slate7">{{ tool.refusals.join(' ') }}</span>
          </li>
        </ul>
      </template>
    </template>
    <p v-else-if="plan" class="text-lead font-semibold">{{ plan.missing }}</p>
    <ProblemNote v-else-if="error" :sentence="error.message" />
    <template #aside><ReasonAside title="Why" :reasons /></template>
  </StageSheet>
</template>
