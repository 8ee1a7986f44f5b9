<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import { useBenchInAddress } from '@/app/address'
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'
import LinePlot from '@/ui/LinePlot.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useBulk } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'
import WorkedHere from '@/ui/WorkedHere.vue'

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
const said = (figure: Schemas['Figure']) => `${figure.number} ${figure.unit}`
const levels = computed(() =>
  found.value
    ? [
        { name: `valley ${said(found.value.valley)}`, value: found.value.valley.value, below: true },
        { name: `runs from ${said(found.value.least)}`, value: found.value.least.value },
      ].sort((a, b) => b.value - a.value)
    : [],
)
const milliseconds = (course?: Schemas['CourseOut']) => course?.seconds.map((seconds) => seconds * 1000) ?? []
/** The surge as far as something of it flows. */
const surge = computed(() => {
  const [cold, hot] = [found.value?.surge.values ?? [], found.value?.surge_hot.values ?? []]
  const least = Math.max(...cold, ...hot) / 50
  const end =
    Math.max(
      cold.findIndex((amps) => amps < least),
      hot.findIndex((amps) => amps < least),
      10,
    ) + 5
  return [milliseconds(found.value?.surge).slice(0, end), cold.slice(0, end), hot.slice(0, end)] as [
    number[],
    number[],
    number[],
  ]
})
</script>

<template>
  <section aria-label="Switching supply" class="@container">
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
    <WorkedHere class="mt-4" :of="found" />
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
      <div class="mt-4 grid gap-x-8 gap-y-4 @3xl:grid-cols-2">
        <figure class="min-w-0">
          <figcaption class="text-small text-slate7">The bulk over one cycle, lowest mains and full power</figcaption>
          <LinePlot
            :data="[milliseconds(found.rail), found.rail.values]"
            :lines="[{ colour: found.runs ? 'ochre' : 'danger' }]"
            :says="`${found.says} Ripple ${said(found.ripple)}.`"
            x-label="ms"
            y-label="bulk, volts"
            :levels
          />
        </figure>
        <figure class="min-w-0">
          <figcaption class="text-small text-slate7">
            The surge at highest mains: cold in full, NTC hot dashed
          </figcaption>
          <LinePlot
            :data="surge"
            :lines="[{ colour: 'ochre' }, { colour: 'danger', dashed: true }]"
            :says="`Inrush ${said(found.inrush)} with the NTC cold, ${said(found.inrush_hot)} with it hot.`"
            x-label="ms after switching on"
            y-label="amperes"
          />
        </figure>
      </div>
      <dl class="mt-5 grid grid-cols-2 gap-x-6 gap-y-3 sm:grid-cols-3">
        <div v-for="figure in FIGURES" :key="figure.name">
          <dd><FigureValue :figure="found[figure.name]" /></dd>
          <dt class="text-small text-slate5">{{ figure.says }}</dt>
        </div>
      </dl>
    </template>
  </section>
</template>
