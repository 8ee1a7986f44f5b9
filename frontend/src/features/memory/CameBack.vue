<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { sheetOf } from '@/features/job/stages'
import { useCameBack } from './queries'

/** That the set was here before: whether the workshop still stands for it, what was left in it, what is otherwise now. */
const { jobId } = defineProps<{ jobId: string }>()
const { data: found } = useCameBack(jobId)
const day = (at: string) => new Date(at).toLocaleDateString('en-GB', { dateStyle: 'long' })
function warranty({ warranty: stands, warranty_until: until }: Schemas['CameBackOut']): string {
  if (stands === 'here') return 'It is still on the bench under that number.'
  if (!until) return 'No warranty was given.'
  return stands === 'runs' ? `Its warranty runs until ${day(until)}.` : `Its warranty ended on ${day(until)}.`
}
</script>

<template>
  <section v-if="found?.length" aria-label="Here before" class="mb-6">
    <div
      v-for="one in found"
      :key="one.job_id"
      class="mb-3 border-l-[6px] bg-sheet px-4 py-3"
      :class="one.warranty === 'runs' ? 'border-ochre' : 'border-slate3'"
    >
      <p class="text-lead font-semibold">
        {{ one.surely ? 'It was here before:' : 'Was it here before?' }}
        <RouterLink class="underline decoration-slate3 underline-offset-4" :to="sheetOf(one.job_id, 'record')"
          >Job {{ one.number }}</RouterLink
        ><template v-if="one.returned_at">, handed back {{ day(one.returned_at) }}</template>
      </p>
      <p class="font-semibold" :class="one.warranty === 'runs' ? 'text-ochre-text' : 'text-slate7'">
        {{ warranty(one) }}
      </p>
      <p class="text-small text-slate7">
        Known by {{ one.by }}.<template v-if="one.symptom"> Then: {{ one.symptom }}</template>
      </p>
      <ul v-if="one.differs.length" class="mt-1" aria-label="Otherwise now">
        <li v-for="says in one.differs" :key="says" class="font-semibold">{{ says }}</li>
      </ul>
      <ul v-if="one.parts.length" class="mt-1 text-small" aria-label="Left in it then">
        <li v-for="part in one.parts" :key="part.name">
          <span class="font-mono">{{ part.name }}</span> {{ part.marking }}:
          {{ part.fitted ? 'fitted then' : 'left as it was' }}<template v-if="part.lot">, lot {{ part.lot }}</template
          ><template v-if="part.reading">; {{ part.reading }}</template>
        </li>
      </ul>
    </div>
  </section>
</template>
