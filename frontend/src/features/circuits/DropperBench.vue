<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import { ProblemError, type Schemas } from '@/api/client'
import { useWords } from '@/api/words'
import FigureValue from '@/ui/FigureValue.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import NetlistLink from './NetlistLink.vue'
import SymptomBand from './SymptomBand.vue'
import { useDropper } from './queries'

/** A dropper as typed: what it gives and loses, and what is seen as its capacitance falls. */
const { start } = defineProps<{ start: Schemas['DropperIn'] }>()
const typed = reactive({ ...start })
const { data: found, error } = useDropper(toRef(() => ({ ...typed })))
const { data: words } = useWords()
const at = (field: string) => (error.value instanceof ProblemError ? error.value.at(field) : undefined)
const FIELDS = [
  { name: 'supply_voltage', label: 'Mains' },
  { name: 'supply_frequency', label: 'Frequency' },
  { name: 'capacitance', label: 'Capacitance' },
  { name: 'series', label: 'Series resistor' },
  { name: 'bleed', label: 'Bleed, empty for open' },
  { name: 'smoothing', label: 'Smoothing' },
  { name: 'clamp', label: 'Rail, clamped at' },
] as const
const topologies = computed(() => (words.value?.topologies ?? []).filter((known) => known.id))
const lowest = computed(() => found.value?.rows[0])
const needed = computed(() => lowest.value?.zones.at(-2)?.edge)
const FIGURES = [
  { name: 'available', says: 'into the clamp, nominal mains' },
  { name: 'available_low', says: 'at the lowest mains' },
  { name: 'zener', says: 'in the zener: lightest load, highest mains' },
  { name: 'series', says: 'in the series resistor' },
  { name: 'current', says: 'from the mains' },
  { name: 'inrush', says: 'switched on at the peak' },
  { name: 'inrush_again', says: 're-plugged, charged the other way' },
] as const
</script>

<template>
  <section aria-label="Dropper bench">
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <SelectField v-model="typed.topology" label="Rectified by" :options="topologies" :error="at('topology')" />
      <TextField
        v-for="field in FIELDS"
        :key="field.name"
        v-model="typed[field.name]"
        :label="field.label"
        mono
        :error="at(field.name)"
      />
      <TextField
        v-model="typed.loads"
        class="col-span-2"
        label="What it feeds, a line for each state"
        multiline
        mono
        :error="at('loads')"
      />
    </form>
    <template v-if="found">
      <div v-if="needed && lowest" class="mt-5 flex flex-wrap items-end gap-x-4">
        <FigureValue :figure="needed" size="number" />
        <p class="text-lead">
          hold every load at {{ lowest.supply.number }} {{ lowest.supply.unit }}, the lowest mains.
        </p>
      </div>
      <p v-else class="mt-5 text-lead">No capacitance brings the rail there: it is above what this mains can give.</p>
      <p class="mt-4 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">{{ found.caution }}</p>
      <SymptomBand v-if="found.rows.length" class="mt-4" :rows="found.rows" :mark="found.capacitance" />
      <dl class="mt-5 grid grid-cols-2 gap-x-6 gap-y-3 sm:grid-cols-4">
        <div v-for="figure in FIGURES" :key="figure.name">
          <dd><FigureValue :figure="found[figure.name]" /></dd>
          <dt class="text-small text-slate5">{{ figure.says }}</dt>
        </div>
        <div>
          <dd class="font-mono text-value font-medium">{{ found.power_factor }}</dd>
          <dt class="text-small text-slate5">power factor: low is normal here</dt>
        </div>
      </dl>
      <NetlistLink :netlist="found.netlist" name="dropper" />
    </template>
  </section>
</template>
