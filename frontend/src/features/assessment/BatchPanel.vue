<script setup lang="ts">
import { computed, ref } from 'vue'
import { ProblemError } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { sent } from '@/ui/fields'
import { useBatch, useDecideBatch, type BatchFigures } from './queries'

/** The rest of the set: only what failed, or every one; both in money, and what was decided. */
const { positionId } = defineProps<{ positionId: string }>()
const FIELDS = [
  { name: 'siblings', label: 'How many more of the same', start: '1' },
  { name: 'age_years', label: 'Age, years', start: '' },
  { name: 'used_percent', label: 'Life used, %', start: '' },
  { name: 'warranty_months', label: 'Warranty, months', start: '12' },
  { name: 'part_price', label: 'Price of one', start: '0' },
  { name: 'minutes_each', label: 'Minutes to fit one more', start: '10' },
  { name: 'hourly_rate', label: 'An hour costs', start: '0' },
  { name: 'return_cost', label: 'A return costs', start: '0' },
] as const
const typed = ref<Record<string, string>>(Object.fromEntries(FIELDS.map((field) => [field.name, field.start])))
const figures = computed(
  () =>
    ({
      shape: 3,
      ...Object.fromEntries(
        FIELDS.map(({ name }) => [name, sent({ name, label: '', kind: 'number' }, typed.value[name])]),
      ),
    }) as BatchFigures,
)
const { data: found, error } = useBatch(positionId, figures)
const { write: decide, pending, general } = useDecideBatch(positionId)
const at = (field: string) => (error.value instanceof ProblemError ? error.value.at(field) : undefined)
const money = (amount: number | null | undefined) => (amount ?? 0).toFixed(2)
const given = (field: string) =>
  field === 'age_years' ? found.value?.age_years : field === 'used_percent' ? found.value?.used_percent : undefined
</script>

<template>
  <FoldSection title="The rest of the set" :says="found?.decided ? found.decided.sentence : 'only this one, or all'">
    <div class="grid grid-cols-2 gap-3 sm:grid-cols-4">
      <TextField
        v-for="field in FIELDS"
        :key="field.name"
        v-model="typed[field.name]"
        :label="field.label"
        mono
        :hint="!typed[field.name] && given(field.name) ? `${given(field.name)} from its date and circuit` : undefined"
        :error="at(field.name)"
      />
    </div>
    <p v-if="found?.missing" class="mt-3">{{ found.missing }}</p>
    <template v-else-if="found">
      <p class="mt-3 text-lead">
        <span class="font-mono text-value font-medium">{{ found.any_fails_percent }}</span> % that one of them fails in
        that time ({{ found.one_fails_percent }} % each). Set now {{ money(found.set_costs) }}, returns on average
        {{ money(found.failed_costs) }}.
      </p>
      <p class="mt-1 font-semibold">
        Recommended: {{ found.recommends }}<template v-if="found.policy"> ({{ found.policy }})</template>.
      </p>
      <p class="text-small text-slate5">Weibull, shape {{ figures.shape }}, its scale the life; 1 − (1 − p)^n.</p>
      <div class="mt-3 flex flex-wrap gap-3">
        <ActionButton :disabled="pending" @click="decide({ ...figures, choice: 'failed' })"
          >Only what failed</ActionButton
        >
        <ActionButton :disabled="pending" @click="decide({ ...figures, choice: 'set' })"
          >Every one of them</ActionButton
        >
      </div>
    </template>
    <p v-if="found?.decided" class="mt-3 text-tide" role="status">
      Decided by {{ found.decided.by_name }}: {{ found.decided.sentence }}
    </p>
    <ProblemNote class="mt-2" :sentence="general" />
  </FoldSection>
</template>
