<script setup lang="ts">
import type { Schemas } from '@/api/client'
import EditForm from '@/ui/EditForm.vue'
import { fieldsOf } from '@/ui/fields'
import { useSaveJob } from './queries'

/** Intake: what it is, whose, how it is fed, what is wrong with it. */
const { job, words } = defineProps<{ job?: Schemas['JobOut']; words: Schemas['VocabularyOut'] }>()
const emit = defineEmits<{ saved: [job: Schemas['JobOut']] }>()
const FIELDS = fieldsOf<Schemas['JobIn']>({
  title: { label: 'What it is', kind: 'line', wide: true },
  symptom: { label: 'Symptom', kind: 'multiline', wide: true },
  customer: { label: 'Customer', kind: 'line' },
  promised_by: { label: 'Promised by', kind: 'date' },
  maker: { label: 'Maker', kind: 'line' },
  model: { label: 'Model', kind: 'line' },
  serial: { label: 'Serial or date', kind: 'line' },
  supply_voltage: { label: 'Supply', mono: true },
  supply_frequency: { label: 'Frequency', mono: true },
  protection_class: {
    label: 'Protection class',
    kind: 'select',
    options: [
      { id: '', title: 'not known' },
      { id: 'I', title: 'I, earthed' },
      { id: 'II', title: 'II, double insulated' },
    ],
  },
  connection: {
    label: 'Connection',
    kind: 'select',
    options: [
      { id: '', title: 'not known' },
      { id: 'plug', title: 'plug' },
      { id: 'fixed', title: 'fixed wiring' },
    ],
  },
  two_core: { label: 'on a two-core lead, nothing earthed', kind: 'check' },
  live_chassis: { label: 'chassis connected to a mains conductor', kind: 'check' },
  standard: {
    label: 'Standard that applies',
    kind: 'select',
    wide: true,
    options: [
      { id: '', title: 'not chosen: empty to 50 V' },
      ...words.standards.map((row) => ({ id: row.id, title: `${row.id} · ${row.applies_to}` })),
    ],
  },
})
const supply = (figure: Schemas['Figure']) => `${figure.number} ${figure.unit}`
const start = job ?? {
  supply_voltage: supply(words.supply_voltage),
  supply_frequency: supply(words.supply_frequency),
}
const writer = useSaveJob(FIELDS)
</script>

<template>
  <EditForm
    :fields="FIELDS"
    :start
    :writer
    :focus="!job"
    :submit="job ? 'Save intake' : 'Open the job'"
    @saved="emit('saved', $event)"
  >
    <template #buttons="{ drop, half }"><slot :drop :half /></template>
  </EditForm>
</template>
