<script setup lang="ts">
import { computed, reactive, ref, toRef, watchEffect } from 'vue'
import { useBenchInAddress } from '@/app/address'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import FigureValue from '@/ui/FigureValue.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import FoldSection from '@/ui/FoldSection.vue'
import CommandPlot from './CommandPlot.vue'
import DropperSchematic from './DropperSchematic.vue'
import FaultsPanel from './FaultsPanel.vue'
import HeatTable from './HeatTable.vue'
import NetlistLink from './NetlistLink.vue'
import SymptomBand from './SymptomBand.vue'
import { useDropper } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'
import WorkedHere from '@/ui/WorkedHere.vue'

/** A dropper as typed: what it gives and loses, and what is seen as its capacitance falls. */
const { start } = defineProps<{ start: Schemas['DropperIn'] }>()
const typed = reactive({ ...start })
useBenchInAddress(typed)
const { data: found, waits, at } = useDropper(toRef(() => ({ ...typed })))
const { data: words } = useVocabulary()
const FIELDS = [
  { name: 'supply_voltage', label: 'Mains' },
  { name: 'capacitance', label: 'Capacitance' },
  { name: 'clamp', label: 'Rail, clamped at' },
  { name: 'series', label: 'Series resistor' },
] as const
const MORE = [
  { name: 'supply_frequency', label: 'Frequency' },
  { name: 'bleed', label: 'Bleed, empty for open' },
  { name: 'smoothing', label: 'Smoothing' },
  { name: 'zener_rating', label: 'Zener, rated' },
  { name: 'series_rating', label: 'Series resistor, rated' },
  { name: 'marked', label: 'Marked' },
  { name: 'reading', label: 'Reads' },
  { name: 'reading_error', label: 'Its error' },
] as const
// What is wrong in there is shown; it stays open while it is mended.
const opened = ref(false)
watchEffect(() => {
  if (MORE.some((field) => at(field.name))) opened.value = true
})
const topologies = computed(() => (words.value?.topologies ?? []).filter((known) => known.id))
const lowest = computed(() => found.value?.rows[0])
const needed = computed(() => found.value?.needed)
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
  <section aria-label="Dropper bench" class="@container">
    <div class="grid gap-x-8 gap-y-5 @4xl:grid-cols-[23rem_minmax(0,1fr)]">
      <form class="grid grid-cols-2 content-start items-start gap-3" @submit.prevent>
        <SelectField
          v-model="typed.topology"
          class="col-span-2"
          label="Rectified by"
          :options="topologies"
          :error="at('topology')"
        />
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
          hint="standby 8 mA; a relay by its coil: valve 920 Ω pulls in 16.8 V holds 12 V resets 9 V"
          multiline
          :rows="4"
          mono
          :error="at('loads')"
        />
        <FoldSection
          class="col-span-2 mt-0"
          title="More values"
          says="bleed, smoothing, ratings, reading"
          :open="opened"
        >
          <div class="grid grid-cols-2 items-start gap-3">
            <TextField
              v-for="field in MORE"
              :key="field.name"
              v-model="typed[field.name]"
              :label="field.label"
              mono
              :error="at(field.name)"
            />
          </div>
        </FoldSection>
      </form>
      <WaitingShape :when="waits" />
      <div v-if="found" class="min-w-0">
        <WorkedHere class="mb-3" :of="found" />
        <div v-if="needed && lowest" class="flex flex-wrap items-end gap-x-4">
          <FigureValue :figure="needed" size="number" />
          <p class="text-lead">
            hold every load at {{ lowest.supply.number }} {{ lowest.supply.unit }}, the lowest mains.
          </p>
        </div>
        <p v-else class="text-lead">No capacitance brings the rail there: it is above what this mains can give.</p>
        <p class="mt-3 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">{{ found.caution }}</p>
        <SymptomBand
          v-if="found.rows.length"
          class="mt-4"
          :rows="found.rows"
          :mark="found.capacitance"
          :marked="found.marked"
          :reading="found.reading"
        />
        <DropperSchematic class="mt-5" :typed @typed="(field, value) => (typed[field] = value)" />
      </div>
    </div>
    <template v-if="found">
      <dl class="mt-5 grid grid-cols-2 gap-x-6 gap-y-3 @2xl:grid-cols-4">
        <div v-for="figure in FIGURES" :key="figure.name">
          <dd><FigureValue :figure="found[figure.name]" /></dd>
          <dt class="text-small text-slate5">{{ figure.says }}</dt>
        </div>
        <div>
          <dd class="font-mono text-value font-medium">{{ found.power_factor }}</dd>
          <dt class="text-small text-slate5">power factor: low is normal here</dt>
        </div>
      </dl>
      <CommandPlot v-if="found.command" :command="found.command" />
      <HeatTable :rows="found.heat" :says="found.heat_says" />
      <FoldSection title="Which fault explains it" says="backwards from what is measured">
        <FaultsPanel :dropper="typed" :states="found.states" />
      </FoldSection>
      <NetlistLink :netlist="found.netlist" name="dropper" />
    </template>
  </section>
</template>
