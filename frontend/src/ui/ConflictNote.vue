<script setup lang="ts">
import { computed } from 'vue'
import type { ProblemError } from '@/api/client'
import ActionButton from './ActionButton.vue'
import type { Draft, FieldSpec } from './fields'

/** Two people changed one thing: both versions side by side, and the choice between them. Nothing typed is lost. */
const { problem, mine, fields } = defineProps<{ problem: ProblemError | null; mine: Draft; fields: FieldSpec[] }>()
const emit = defineEmits<{ keepMine: [version: number]; takeTheirs: [theirs: Draft] }>()
const theirs = computed(() => problem?.problem.current ?? null)
const said = (value: unknown) => (value === null || value === undefined || value === '' ? '–' : String(value))
const rows = computed(() =>
  fields
    .map(({ name, label }) => ({ label, mine: said(mine[name]), theirs: said(theirs.value?.[name]) }))
    .filter((row) => row.mine !== row.theirs),
)
</script>

<template>
  <section v-if="theirs" role="alert" class="border-l-4 border-ochre bg-ochre-w p-4">
    <p class="font-semibold">Somebody changed this since you opened it.</p>
    <table class="mt-2 w-full text-left">
      <thead class="text-small text-slate7">
        <tr>
          <th class="py-1 pr-3 font-semibold">Field</th>
          <th class="py-1 pr-3 font-semibold">Theirs, saved</th>
          <th class="py-1 font-semibold">Yours, typed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.label" class="border-t border-slate3">
          <th class="py-1 pr-3 font-normal">{{ row.label }}</th>
          <td class="py-1 pr-3">{{ row.theirs }}</td>
          <td class="py-1">{{ row.mine }}</td>
        </tr>
      </tbody>
    </table>
    <div class="mt-3 flex flex-wrap gap-3">
      <ActionButton @click="emit('keepMine', Number(theirs.version))">Save yours over theirs</ActionButton>
      <ActionButton @click="emit('takeTheirs', theirs)">Take theirs</ActionButton>
    </div>
  </section>
</template>
