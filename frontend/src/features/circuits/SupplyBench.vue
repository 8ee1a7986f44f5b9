<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import { ProblemError, type Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import NetlistLink from './NetlistLink.vue'
import { useSupply } from './queries'

/** A transformer-fed supply as typed: what it gives, and whether its reservoir may grow. */
const { start = {} } = defineProps<{ start?: Partial<Schemas['SupplyIn']> }>()
const typed = reactive<Schemas['SupplyIn']>({
  topology: 'full_wave',
  rectifier: 'valve_gz34',
  mains: '230 V',
  supply_frequency: '50 Hz',
  secondary: '300 V',
  secondary_winding: '85 Ω',
  primary_winding: '20 Ω',
  drop: '20 V',
  reservoir: '32 µF',
  grown: '',
  load: '75 mA',
  ...start,
})
const { data: found, error } = useSupply(toRef(() => ({ ...typed })))
const at = (field: string) => (error.value instanceof ProblemError ? error.value.at(field) : undefined)
const TOPOLOGIES = [
  { id: 'full_wave', title: 'full wave, centre tap' },
  { id: 'bridge', title: 'bridge' },
  { id: 'half_wave', title: 'half wave' },
  { id: 'doubler', title: 'voltage doubler' },
]
const FIELDS = [
  { name: 'mains', label: 'Mains' },
  { name: 'supply_frequency', label: 'Frequency' },
  { name: 'secondary', label: 'Secondary, each half' },
  { name: 'secondary_winding', label: 'Its winding' },
  { name: 'primary_winding', label: 'Primary winding' },
  { name: 'drop', label: 'Drop of the rectifier' },
  { name: 'load', label: 'Load' },
  { name: 'reservoir', label: 'Reservoir' },
  { name: 'grown', label: 'Grown to' },
] as const
const ROWS = [
  { name: 'output', says: 'output' },
  { name: 'ripple', says: 'ripple, peak to peak' },
  { name: 'peak_diode', says: 'peaks in the rectifier' },
  { name: 'rms_diode', says: 'rms in one of its diodes' },
  { name: 'capacitor', says: 'ripple current in the reservoir' },
  { name: 'surge', says: 'surge, switched on at the peak' },
  { name: 'surge_heat', says: 'what it heats the rectifier with, first 10 ms' },
] as const
const columns = computed(() => [found.value?.now, found.value?.grown].filter((column) => !!column))
</script>

<template>
  <section aria-label="Supply bench">
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <SelectField v-model="typed.topology" label="Rectified by" :options="TOPOLOGIES" :error="at('topology')" />
      <SelectField
        v-model="typed.rectifier"
        label="With a"
        :options="found?.rectifiers ?? []"
        :error="at('rectifier')"
      />
      <TextField
        v-for="field in FIELDS"
        :key="field.name"
        v-model="typed[field.name]"
        :label="field.label"
        mono
        :error="at(field.name)"
      />
    </form>
    <template v-if="found">
      <div v-for="(column, index) in columns" :key="index">
        <p
          v-for="held in column.held"
          :key="held.sentence"
          class="mt-3 border-l-4 px-3 py-2 text-lead"
          :class="
            held.holds === null
              ? 'border-slate3'
              : held.holds
                ? 'border-tide'
                : 'border-danger bg-danger-w font-semibold'
          "
        >
          {{ held.sentence }}
        </p>
      </div>
      <p class="mt-1 text-small text-slate5">
        {{ found.limits_source }}; source resistance {{ found.source.number }} {{ found.source.unit }}.
      </p>
      <table class="mt-4 w-full max-w-3xl text-left">
        <caption class="sr-only">
          The supply as it is and with the grown reservoir
        </caption>
        <thead class="text-small text-slate7">
          <tr>
            <td />
            <th v-for="column in columns" :key="column.reservoir.value" class="py-1 pr-4 font-semibold">
              {{ column.reservoir.number }} {{ column.reservoir.unit }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in ROWS" :key="row.name" class="border-t border-slate2">
            <th class="py-2 pr-4 font-normal text-slate7">{{ row.says }}</th>
            <td v-for="column in columns" :key="column.reservoir.value" class="py-2 pr-4">
              <FigureValue :figure="column[row.name]" />
            </td>
          </tr>
        </tbody>
      </table>
      <NetlistLink :netlist="found.netlist" name="supply" />
    </template>
  </section>
</template>
