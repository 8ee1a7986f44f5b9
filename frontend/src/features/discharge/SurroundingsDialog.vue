<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import EditDialog from '@/ui/EditDialog.vue'
import { fieldsOf, type FieldSpec } from '@/ui/fields'
import { useSaveSurroundings } from './queries'

/** The circuit around a position: what feeds it, how its parts are connected, what is fitted to empty it. */
const { position, words } = defineProps<{ position: Schemas['PositionOut']; words: Schemas['VocabularyOut'] }>()
const emit = defineEmits<{ close: [] }>()
const sizes = computed(() => [
  { id: '', title: 'not known' },
  ...words.resistor_sizes.map((size) => ({ id: String(size.working_v), title: `${size.title}, ${size.working_v} V` })),
])
const kinds = computed(() => [{ id: '', title: 'not known, or as its marking says' }, ...words.kinds])
const asks = (what: Schemas['PositionOut']['circuit_asks'][number], field: Omit<FieldSpec, 'name'>) =>
  position.circuit_asks.includes(what) ? field : 'kept'
const FIELDS = fieldsOf<Schemas['SurroundingsEdit']>({
  basis: { label: 'What feeds it', kind: 'select', options: words.bases, wide: true },
  voltage: { label: 'Secondary, or voltage known', mono: true, hint: 'only for a transformer or by hand' },
  confirmed: { label: 'I checked this circuit: the rating may be passed over', kind: 'check' },
  arrangement: { label: 'Parts', kind: 'select', options: words.arrangements },
  count: { label: 'How many', kind: 'number' },
  balancing: { label: 'Balancing resistor across each', mono: true, hint: '47k; empty for none' },
  bleeder: { label: 'Fitted bleeder', mono: true, hint: '150k, or 2 x 150k in series' },
  bleeder_working_v: { label: 'Size of each', kind: 'number-select', options: sizes.value },
  bleeder_measured: { label: 'It measures', mono: true, hint: '148k, or open' },
  topology: asks('dropper', { label: 'Rectified by', kind: 'select', options: words.topologies }),
  rail: asks('dropper', { label: 'Rail, clamped at', mono: true, hint: 'such as 24 V' }),
  series: asks('dropper', { label: 'Series resistor', mono: true, hint: '100 Ω where it is empty' }),
  zener: asks('dropper', { label: 'Zener, rated', mono: true, hint: 'such as 1.3 W' }),
  loads: asks('dropper', {
    label: 'What it feeds, a line for each state',
    kind: 'multiline',
    wide: true,
    hint: 'standby 8 mA, on the next line valve on 34 mA, or valve 920 Ω pulls in 16.8 V holds 12 V resets 9 V',
  }),
  life_h: asks('life', { label: 'Life on its data sheet, hours', kind: 'number', hint: 'all four, or none' }),
  life_at_c: asks('life', { label: 'at, °C', kind: 'number' }),
  runs_at_c: asks('life', { label: 'It runs at, °C', kind: 'number' }),
  hours_a_day: asks('life', { label: 'Hours a day', kind: 'number' }),
  made_as: { label: 'The old part is made as', kind: 'select', options: kinds.value },
  reaches: asks('reaches', { label: 'It leads from the mains to', kind: 'select', options: words.reaches }),
  ripple: asks('ripple', { label: 'Ripple current it carries, rms', mono: true, hint: 'by its circuit or data sheet' }),
  esr: asks('ripple', { label: 'ESR of a new one, at most', mono: true, hint: 'by its data sheet, 0.4 Ω' }),
  dvdt: asks('pulse', { label: 'dv/dt it stands, V/µs', kind: 'number' }),
  peak: asks('pulse', { label: 'Peak current it carries', mono: true, hint: 'by its circuit or data sheet' }),
})
const writer = useSaveSurroundings(FIELDS)
const start = { ...position.surroundings, id: position.id, version: position.version }
</script>

<template>
  <EditDialog
    :title="`Circuit of ${position.name}`"
    :fields="FIELDS"
    :start
    :writer
    submit="Plan with this"
    @close="emit('close')"
  />
</template>
