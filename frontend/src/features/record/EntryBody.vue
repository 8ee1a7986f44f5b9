<script setup lang="ts">
import { computed } from 'vue'

/** What an entry holds, field by field, as it was written. */
const { body } = defineProps<{ body: Record<string, unknown> }>()
const say = (value: unknown): string => {
  if (Array.isArray(value)) return value.map(say).join('; ')
  if (value && typeof value === 'object') return Object.values(value).filter(Boolean).map(say).join(', ')
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  return String(value)
}
// What a reader looks for first; the rest follows in the order it was hashed in.
const FIRST = [
  'number',
  'title',
  'name',
  'position',
  'marking',
  'part',
  'word',
  'state',
  'value',
  'interval',
  'through',
  'energy',
]
const rank = (field: string) => (FIRST.includes(field) ? FIRST.indexOf(field) : FIRST.length)
const rows = computed(() =>
  Object.entries(body)
    .sort(([a], [b]) => rank(a) - rank(b))
    .map(([field, value]) => ({ field: field.replaceAll('_', ' '), value: value === null ? '' : say(value) }))
    .filter((row) => row.value !== ''),
)
</script>

<template>
  <dl class="mt-1 grid grid-cols-[7rem_minmax(0,1fr)] gap-x-3 text-small sm:grid-cols-[8.500rem_minmax(0,1fr)]">
    <template v-for="row in rows" :key="row.field">
      <dt class="text-slate5">{{ row.field }}</dt>
      <dd class="break-words">{{ row.value }}</dd>
    </template>
  </dl>
</template>
