<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import { FILTERS, type FilterName, type Filters } from './filters'

/** What of the drawer is asked for beside words, as chips, at every width; what is on stands first. */
const { on, parts = [] } = defineProps<{ on: Filters; parts?: Schemas['PartOut'][] }>()
const emit = defineEmits<{ turn: [name: FilterName, value: string] }>()
const { data: offered } = useVocabulary()
interface Chip {
  name: FilterName
  value: string
  says: string
}
const OFFERED: Chip[] = [
  { name: 'state', value: 'in_stock', says: 'in stock' },
  { name: 'state', value: 'none_left', says: 'none left' },
  { name: 'safety_class', value: 'X1', says: 'X1' },
  { name: 'safety_class', value: 'X2', says: 'X2' },
  { name: 'safety_class', value: 'Y1', says: 'Y1' },
  { name: 'safety_class', value: 'Y2', says: 'Y2' },
  { name: 'age', value: 'old', says: 'over 5 years old' },
  { name: 'age', value: 'undated', says: 'age not known' },
  { name: 'state', value: 'salvaged', says: 'salvaged' },
  { name: 'state', value: 'unsettled', says: 'not settled' },
]
const MOST_PITCHES = 6
const isOn = (chip: Chip) => on[chip.name].value === chip.value
/** Kinds and pitches as the listed parts have them, and whatever is on. */
const chips = computed(() => {
  const kinds = (offered.value?.kinds ?? []).map(({ id, title }): Chip => ({ name: 'kind', value: id, says: title }))
  const held = new Set<string>(parts.map((part) => part.kind))
  const pitches = [...new Set(parts.flatMap((part) => part.pitch_mm ?? []))].sort((a, b) => a - b)
  const listed: Chip[] = [
    ...OFFERED,
    ...kinds.filter((kind) => held.has(kind.value)),
    ...pitches
      .slice(0, MOST_PITCHES)
      .map((pitch): Chip => ({ name: 'pitch_mm', value: String(pitch), says: `pitch ${pitch}` })),
  ]
  for (const name of FILTERS) {
    const { value } = on[name]
    if (value && !listed.some(isOnOf(name)))
      listed.push({ name, value, says: kinds.find((kind) => kind.value === value)?.says ?? `pitch ${value}` })
  }
  return listed.sort((a, b) => Number(isOn(b)) - Number(isOn(a)))
})
const isOnOf = (name: FilterName) => (chip: Chip) => chip.name === name && isOn(chip)
</script>

<template>
  <div
    class="print:hidden flex gap-2 max-sm:-mx-5 max-sm:overflow-x-auto max-sm:px-5 sm:flex-wrap"
    role="group"
    aria-label="Only"
  >
    <button
      v-for="chip in chips"
      :key="`${chip.name} ${chip.value}`"
      type="button"
      class="min-h-11 shrink-0 rounded-full border px-4 sm:min-h-9"
      :class="isOn(chip) ? 'border-tide bg-tide font-semibold text-paper' : 'border-slate5 hover:bg-sheet'"
      :aria-pressed="isOn(chip)"
      @click="emit('turn', chip.name, isOn(chip) ? '' : chip.value)"
    >
      {{ chip.says }}<span v-if="isOn(chip)" aria-hidden="true" class="ml-2">×</span>
    </button>
  </div>
</template>
