<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import EditDialog from '@/ui/EditDialog.vue'
import type { FieldSpec } from '@/ui/fields'
import { useSaveSurroundings } from './queries'

/** The circuit around a position: what feeds it, how its parts are connected, what is fitted to empty it. */
const { position, words } = defineProps<{ position: Schemas['PositionOut']; words: Schemas['VocabularyOut'] }>()
const emit = defineEmits<{ close: [] }>()
const sizes = computed(() => [
  { id: '', title: 'not known' },
  ...words.resistor_sizes.map((size) => ({ id: String(size.working_v), title: `${size.title}, ${size.working_v} V` })),
])
const DROPPER: FieldSpec[] = [
  { name: 'topology', label: 'Rectified by', kind: 'select', options: words.topologies },
  { name: 'rail', label: 'Rail, clamped at', mono: true, hint: 'such as 24 V' },
  { name: 'series', label: 'Series resistor', mono: true, hint: '100 Ω where it is empty' },
  { name: 'zener', label: 'Zener, rated', mono: true, hint: 'such as 1.3 W' },
  {
    name: 'loads',
    label: 'What it feeds, a line for each state',
    kind: 'multiline',
    wide: true,
    hint: 'standby 8 mA, on the next line valve on 34 mA, or valve 920 Ω pulls in 16.8 V holds 12 V resets 9 V',
  },
]
const LIFE: FieldSpec[] = [
  { name: 'life_h', label: 'Life on its data sheet, hours', kind: 'number', hint: 'all four, or none' },
  { name: 'life_at_c', label: 'at, °C', kind: 'number' },
  { name: 'runs_at_c', label: 'It runs at, °C', kind: 'number' },
  { name: 'hours_a_day', label: 'Hours a day', kind: 'number' },
]
const FIELDS: FieldSpec[] = [
  { name: 'basis', label: 'What feeds it', kind: 'select', options: words.bases, wide: true },
  { name: 'voltage', label: 'Secondary, or voltage known', mono: true, hint: 'only for a transformer or by hand' },
  { name: 'confirmed', label: 'I checked this circuit: the rating may be passed over', kind: 'check' },
  { name: 'arrangement', label: 'Parts', kind: 'select', options: words.arrangements },
  { name: 'count', label: 'How many', kind: 'number' },
  { name: 'balancing', label: 'Balancing resistor across each', mono: true, hint: '47k; empty for none' },
  { name: 'bleeder', label: 'Fitted bleeder', mono: true, hint: '150k, or 2 x 150k in series' },
  { name: 'bleeder_working_v', label: 'Size of each', kind: 'number-select', options: sizes.value },
  { name: 'bleeder_measured', label: 'It measures', mono: true, hint: '148k, or open' },
  ...(position.circuit_asks.includes('dropper') ? DROPPER : []),
  ...(position.circuit_asks.includes('life') ? LIFE : []),
]
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
