<script setup lang="ts">
import { reactive, toRef } from 'vue'
import { useBenchInAddress } from '@/app/address'
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useBulk } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** The bulk of a switching supply as typed: does its valley keep the converter running, and what flows at switch-on. */
const { start = {} } = defineProps<{ start?: Partial<Schemas['BulkIn']> }>()
const typed = reactive<Schemas['BulkIn']>({
  topology: 'bridge',
  supply_voltage: '230 V',
  supply_frequency: '50 Hz',
  bulk: '82 µF',
  power: '45 W',
  efficiency: '80 %',
  least: '200 V',
  ntc_cold: '5 Ω',
  ntc_hot: '0.5 Ω',
  ...start,
})
useBenchInAddress(typed)
const { data: found, waits, at } = useBulk(toRef(() => ({ ...typed })))
const TOPOLOGIES = [
  { id: 'bridge', title: 'bridge' },
  { id: 'doubler', title: 'voltage doubler' },
]
const FIELDS = [
  { name: 'supply_voltage', label: 'Mains' },
  { name: 'supply_frequency', label: 'Frequency' },
  { name: 'bulk', label: 'Bulk' },
  { name: 'power', label: 'Full power, out' },
  { name: 'efficiency', label: 'Efficiency' },
  { name: 'least', label: 'Converter runs from' },
  { name: 'ntc_cold', label: 'NTC, cold' },
  { name: 'ntc_hot', label: 'NTC, hot' },
] as const
const FIGURES = [
  { name: 'valley', says: 'valley, lowest mains and full power' },
  { name: 'ripple', says: 'ripple, peak to peak' },
  { name: 'hold_up', says: 'it runs on without mains, from a valley' },
  { name: 'ripple_current', says: 'ripple current of the mains, rms; the converter’s comes on top' },
  { name: 'inrush', says: 'inrush, highest mains, NTC cold' },
  { name: 'inrush_hot', says: 're-plugged with the NTC hot' },
] as const
</script>

<template>
  <section aria-label="Switching supply">
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <SelectField v-model="typed.topology" label="Rectified by" :options="TOPOLOGIES" :error="at('topology')" />
      <TextField
        v-for="field in FIELDS"
        :key="field.name"
        v-model="typed[field.name]"
        :label="field.label"
        mono
        :error="at(field.name)"
      />
    </form>
    <WaitingShape class="mt-4" :when="waits" />
    <template v-if="found">
      <div class="mt-5 flex flex-wrap items-end gap-x-4">
        <FigureValue v-if="found.needed" :figure="found.needed" size="number" />
        <p class="text-lead">
          {{
            found.needed
              ? 'keep it running at the lowest mains.'
              : 'No capacitance keeps it running at the lowest mains.'
          }}
        </p>
      </div>
      <p
        class="mt-3 border-l-4 px-3 py-2 text-lead"
        :class="found.runs ? 'border-tide' : 'border-danger bg-danger-w font-semibold'"
      >
        {{ found.says }}
      </p>
      <dl class="mt-5 grid grid-cols-2 gap-x-6 gap-y-3 sm:grid-cols-3">
        <div v-for="figure in FIGURES" :key="figure.name">
          <dd><FigureValue :figure="found[figure.name]" /></dd>
          <dt class="text-small text-slate5">{{ figure.says }}</dt>
        </div>
      </dl>
    </template>
  </section>
</template>
