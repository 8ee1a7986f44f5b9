<script setup lang="ts">
import { useKept } from '@/api/kept'
import { reactive, computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useOverride } from './queries'

/** Demands that may be overridden with a reason that stands in the record; what is hard is not among them. */
const { positionId, found } = defineProps<{ positionId: string; found: Schemas['CandidatesOut'] }>()
const { write, pending, at, general } = useOverride(positionId)
const rule = ref('')
const reason = ref('')
useKept(`override ${positionId}`, reactive({ rule, reason }))
/** What an explicit choice, such as to let a body overhang, asks for. */
const asks = computed(() => {
  const refusal = found.rejected.flatMap((row) => row.reasons).find((one) => one.rule_id === rule.value)
  return refusal?.choice.split('. ').slice(1).join('. ') ?? ''
})
const demands = computed(() => {
  const refusals = found.rejected.flatMap((row) => row.reasons).filter((refusal) => !refusal.hard)
  const named = new Map(refusals.map((refusal) => [refusal.rule_id, refusal.choice.split('.')[0] || refusal.title]))
  return [{ id: '', title: 'choose a demand' }, ...[...named].map(([id, title]) => ({ id, title }))]
})
async function send(rule_id: string, stands: boolean) {
  const answer = await write({ rule_id, reason: reason.value, stands })
  if (answer) [rule.value, reason.value] = ['', '']
}
</script>

<template>
  <FoldSection
    title="Override a demand"
    :says="
      found.overrides.length
        ? found.overrides.map((o) => o.title).join(', ')
        : 'with a reason that stands in the record'
    "
  >
    <ul v-if="found.overrides.length" aria-label="Overridden here" class="mb-3">
      <li v-for="row in found.overrides" :key="row.rule_id" class="border-l-[3px] border-ochre px-3 py-1">
        <strong>{{ row.title }}</strong>: {{ row.reason }} <span class="text-small text-slate5">{{ row.by_name }}</span>
        <button class="ml-3 min-h-11 underline" :disabled="pending" @click="send(row.rule_id, false)">
          Ask for it again
        </button>
        <StrikeLine :sequence="row.sequence" :what="row.title" />
      </li>
    </ul>
    <form class="grid items-start gap-3 sm:grid-cols-[14rem_minmax(0,1fr)_auto]" @submit.prevent="send(rule, true)">
      <SelectField v-model="rule" label="Demand" :options="demands" :error="at('rule_id')" />
      <TextField v-model="reason" label="Reason" :error="at('reason')" />
      <ActionButton class="sm:mt-6" type="submit" asks="decide" :disabled="pending || !rule">Override it</ActionButton>
    </form>
    <p v-if="asks" class="mt-2 border-l-[3px] border-ochre px-3 py-1">{{ asks }}</p>
    <ProblemNote class="mt-2" :sentence="general" />
  </FoldSection>
</template>
