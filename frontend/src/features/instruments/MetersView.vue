<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import { useAsksFor } from '@/api/may'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import EditDialog from '@/ui/EditDialog.vue'
import { fieldsOf, type Draft } from '@/ui/fields'
import { useMeters, useResistors, useSaveMeter, useSaveResistor } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** What the workshop measures and empties with. */
const { data: meters, error } = useMeters()
const { data: resistors } = useResistors()
const { data: offered } = useVocabulary()
const METER = computed(() =>
  fieldsOf<Schemas['MeterIn']>({
    name: { label: 'Meter', wide: true },
    percent: { label: 'Accuracy, ± % of reading', kind: 'number' },
    counts: { label: 'and ± counts of the last digit', kind: 'number' },
    display_counts: { label: 'Display, counts', kind: 'number', hint: '6000 for one that shows up to 5999' },
    method: { label: 'Finds a capacitance by', kind: 'select', options: offered.value?.methods },
    frequency: { label: 'Test frequency', mono: true, hint: 'of a timed charge its effective one' },
    accuracies: {
      label: 'Other quantities and ranges, a line each',
      kind: 'multiline',
      wide: true,
      mono: true,
      hint: 'ESR ±(1 % + 2) to 20 Ω; ac volts ±0.8 % + 0.2 % of range to 600 V. What is not here is taken as ±10 %.',
    },
    calibration_due: { label: 'Calibration due', kind: 'date' },
    highest_voltage: { label: 'Highest voltage', mono: true },
    input_resistance: { label: 'Input resistance', mono: true },
    category: {
      label: 'Measurement category',
      kind: 'select',
      options: [
        { id: '', title: 'not printed' },
        { id: 'II', title: 'CAT II' },
        { id: 'III', title: 'CAT III' },
        { id: 'IV', title: 'CAT IV' },
      ],
    },
    category_voltage: { label: 'at', mono: true, hint: 'such as 600 V' },
    high_voltage_probe: { label: 'a rated high-voltage probe', kind: 'check' },
    two_pole: { label: 'a two-pole voltage detector', kind: 'check' },
  }),
)
const RESISTOR = computed(() =>
  fieldsOf<Schemas['ResistorIn']>({
    name: { label: 'Resistor', wide: true },
    resistance: { label: 'Value', mono: true, hint: '4k7, or 4.7 kΩ' },
    tolerance_percent: { label: 'Tolerance, ± %', kind: 'number' },
    power: { label: 'Rated power', mono: true },
    working_voltage: { label: 'Working voltage', mono: true },
    construction: { label: 'Made as', kind: 'select', options: offered.value?.constructions },
    pulse_energy: { label: 'Single pulse, if on its data sheet', mono: true },
  }),
)
const meterWriter = useSaveMeter(METER.value)
const resistorWriter = useSaveResistor(RESISTOR.value)
const meter = ref<Draft | null>(null)
const resistor = ref<Draft | null>(null)
const typed = (figure: Schemas['Figure'] | null) => (figure ? `${figure.number} ${figure.unit}` : '')
const edit = (r: Schemas['ResistorOut']) =>
  (resistor.value = {
    ...r,
    resistance: typed(r.resistance),
    power: typed(r.power),
    working_voltage: typed(r.working_voltage),
    pulse_energy: typed(r.pulse_energy),
  })
const sayDue = (meter: Schemas['MeterOut']) =>
  meter.calibration_due
    ? `calibration due ${meter.calibration_due}${meter.overdue ? ', overdue' : ''}`
    : 'no calibration date'
const sayRating = (meter: Schemas['MeterOut']) =>
  [
    meter.two_pole && 'two-pole detector',
    meter.high_voltage_probe
      ? 'high-voltage probe'
      : meter.category && `CAT ${meter.category} ${meter.category_voltage}`,
    `up to ${meter.highest_voltage}`,
  ]
    .filter(Boolean)
    .join(', ')
const lines = (text: string) => text.split('\n').filter((line) => line.trim())
const NEW_METER = { highest_voltage: '600 V', input_resistance: '10 MΩ', category: '', method: 'timed_charge' }
const asksFor = useAsksFor()
useShortcuts({ n: () => asksFor('decide') || (meter.value = { ...NEW_METER }) })
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Meters</h1>
    <WaitingShape class="mt-3" :when="!meters && !error" :rows="5" />
    <ul class="mt-3 border-t border-slate2">
      <li v-for="row in meters" :key="row.id" class="border-b border-slate2">
        <button class="grid w-full gap-x-4 py-3 text-left hover:bg-sheet sm:grid-cols-4" @click="meter = { ...row }">
          <span class="font-semibold">{{ row.name }}</span>
          <span>
            <span class="font-mono">±({{ row.percent }} % + {{ row.counts }}), {{ row.display_counts }} counts</span>
            <span v-for="line in lines(row.accuracies)" :key="line" class="block font-mono text-small text-slate5">{{
              line
            }}</span>
          </span>
          <span>{{ sayRating(row) }}</span>
          <span :class="row.overdue ? 'font-semibold text-ochre-text' : 'text-slate5'">
            {{ sayDue(row) }}
          </span>
        </button>
      </li>
    </ul>
    <p v-if="meters && !meters.length" class="py-3">
      No meter yet. A verdict needs one, with the accuracy its maker states.
    </p>
    <ActionButton class="mt-4" hint="n" asks="decide" @click="meter = { ...NEW_METER }">Add a meter</ActionButton>

    <h2 class="mt-9 text-title font-semibold">Discharge resistors</h2>
    <ul class="mt-3 border-t border-slate2">
      <li v-for="row in resistors" :key="row.id" class="border-b border-slate2">
        <button class="grid w-full gap-x-4 py-3 text-left hover:bg-sheet sm:grid-cols-3" @click="edit(row)">
          <span class="font-semibold">{{ row.name }}</span>
          <span class="font-mono"
            >{{ typed(row.resistance) }} ±{{ row.tolerance_percent }} %, {{ typed(row.power) }},
            {{ typed(row.working_voltage) }}</span
          >
          <span class="text-slate5">{{
            row.pulse_energy ? `${typed(row.pulse_energy)} a pulse, data sheet` : 'pulse by planning figure'
          }}</span>
        </button>
      </li>
    </ul>
    <p v-if="resistors && !resistors.length" class="py-3">No resistor yet. Add one to plan how to empty a capacitor.</p>
    <ActionButton class="mt-4" asks="decide" @click="resistor = { construction: 'wirewound' }"
      >Add a resistor</ActionButton
    >

    <EditDialog
      v-if="meter"
      asks="decide"
      title="Meter"
      :fields="METER"
      :start="meter"
      :writer="meterWriter"
      @close="meter = null"
    />
    <EditDialog
      v-if="resistor"
      asks="decide"
      title="Discharge resistor"
      :fields="RESISTOR"
      :start="resistor"
      :writer="resistorWriter"
      @close="resistor = null"
    />
  </main>
</template>
