<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import { useBenchInAddress } from '@/app/address'
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import FoldSection from '@/ui/FoldSection.vue'
import LinePlot from '@/ui/LinePlot.vue'
import NetlistLink from './NetlistLink.vue'
import SupplySchematic from './SupplySchematic.vue'
import SuspectList from './SuspectList.vue'
import { useSupply } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'
import WorkedHere from '@/ui/WorkedHere.vue'
import WideBox from '@/ui/WideBox.vue'

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
  bleeder: '',
  measured_output: '',
  measured_ripple: '',
  measured_frequency: '',
  ...start,
})
useBenchInAddress(typed)
const { data: found, waits, at, last } = useSupply(toRef(() => ({ ...typed })))
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
  { name: 'bleeder', label: 'Bleeder' },
  { name: 'grown', label: 'Grown to' },
] as const
const MEASURED = [
  { name: 'measured_output', label: 'Output' },
  { name: 'measured_ripple', label: 'Ripple, peak to peak' },
  { name: 'measured_frequency', label: 'Its frequency' },
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
const growth = computed(() => found.value?.growth)
const marks = computed(() => (growth.value?.largest ? [{ name: 'most it allows', x: growth.value.largest }] : []))
const columns = computed(() => [found.value?.now, found.value?.grown].filter((column) => !!column))
</script>

<template>
  <section aria-label="Supply bench">
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <SelectField v-model="typed.topology" label="Rectified by" :options="TOPOLOGIES" :error="at('topology')" />
      <SelectField
        v-model="typed.rectifier"
        label="With a"
        :options="last?.rectifiers ?? []"
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
    <WaitingShape class="mt-4" :when="waits" />
    <WorkedHere class="mt-4" :of="found" />
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
      <WideBox label="Figures">
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
            <tr v-if="found.now.bleeder" class="border-t border-slate2">
              <th class="py-2 pr-4 font-normal text-slate7">lost in the bleeder</th>
              <td v-for="column in columns" :key="column.reservoir.value" class="py-2 pr-4">
                <FigureValue v-if="column.bleeder" :figure="column.bleeder" />
              </td>
            </tr>
          </tbody>
        </table>
      </WideBox>
      <SupplySchematic class="mt-5" :typed @typed="(field, value) => (typed[field] = value)" />
      <figure v-if="growth" class="mt-5">
        <LinePlot
          :data="[growth.microfarads, growth.ripple, growth.heat]"
          :lines="[{ colour: 'ink' }, { colour: 'ochre', right: true }]"
          says="Ripple falls and the heat of the surge rises as the reservoir grows."
          x-label="reservoir, µF"
          y-label="ripple, volts"
          y-label-right="heat of the surge, A²s"
          :marks
        />
        <figcaption class="text-small text-slate5">
          What growing it does: dark is the ripple, ochre what the surge heats the rectifier with.
        </figcaption>
        <details class="mt-1 text-small">
          <summary class="min-h-11 py-3">As a table</summary>
          <table class="text-left tabular-nums">
            <thead class="text-slate5">
              <tr>
                <th class="pr-6 font-normal">µF</th>
                <th class="pr-6 font-normal">ripple, V</th>
                <th class="font-normal">A²s</th>
              </tr>
            </thead>
            <tbody class="font-mono">
              <tr v-for="(farads, index) in growth.microfarads" :key="farads">
                <td class="pr-6">{{ farads.toFixed(0) }}</td>
                <td class="pr-6">{{ growth.ripple[index]?.toFixed(1) }}</td>
                <td>{{ growth.heat[index]?.toPrecision(2) }}</td>
              </tr>
            </tbody>
          </table>
        </details>
      </figure>
      <FoldSection title="Ripple and hum" says="what a measured ripple and its frequency say">
        <div class="grid max-w-3xl grid-cols-2 items-start gap-3 sm:grid-cols-3">
          <TextField
            v-for="field in MEASURED"
            :key="field.name"
            v-model="typed[field.name]"
            :label="field.label"
            mono
            :error="at(field.name)"
          />
        </div>
        <SuspectList v-if="found.suspects.length" :suspects="found.suspects" />
      </FoldSection>
      <NetlistLink :netlist="found.netlist" name="supply" />
    </template>
  </section>
</template>
