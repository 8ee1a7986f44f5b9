<script setup lang="ts">
import { computed, reactive, ref, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import ActionButton from '@/ui/ActionButton.vue'
import { useLogWalk, useWalk } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'
import WorkedHere from '@/ui/WorkedHere.vue'

/** The walk of a mains supply from its inlet: each reading clears a part or makes it a suspect, and on a job goes on its record. */
const { jobId = '', start } = defineProps<{ jobId?: string; start?: Schemas['WalkIn'] }>()
const typed = reactive({
  symptom: 'fuse_blown',
  part_ntc: '',
  part_bleed: '',
  part_choke: '',
  part_bulk: '',
  fuse: '',
  ntc: '',
  mov: '',
  x: '',
  choke: '',
  bridge: '',
  switch: '',
  bulk: '',
  bulk_leak: '',
  rail: '',
  ...start,
})
const noted = reactive<Record<string, string>>({ ...start })
const { write, settled, at: refused, general } = useLogWalk(jobId)
const notedLast = ref('')
async function note(id: Check) {
  if (!jobId || !typed[id] || typed[id] === noted[id]) return
  await settled() // one after the other, in the order they were typed
  notedLast.value = id
  const { symptom, part_ntc, part_bleed, part_choke, part_bulk } = typed
  const said = typed[id]
  if (await write({ symptom, part_ntc, part_bleed, part_choke, part_bulk, check_id: id, value: said })) noted[id] = said
}
const { data: answer, waits, at, last: found } = useWalk(toRef(() => ({ ...typed }) satisfies Schemas['WalkIn']))
const PARTS = [
  { name: 'part_ntc', label: 'NTC, cold' },
  { name: 'part_bleed', label: 'Bleed of the X capacitor' },
  { name: 'part_choke', label: 'Filter choke, a winding' },
  { name: 'part_bulk', label: 'Bulk, marked' },
] as const
type Check = Exclude<keyof typeof typed, 'symptom' | `part_${string}`>
const next = computed(() => answer.value?.checks.find((check) => check.id === answer.value.next_id))
const key = (id: string) => id as Check
</script>

<template>
  <section aria-label="Fault walk">
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <SelectField
        v-model="typed.symptom"
        label="What it shows"
        :options="found?.symptoms ?? []"
        :error="at('symptom')"
      />
    </form>
    <WaitingShape class="mt-4" :when="waits" />
    <WorkedHere class="mt-4" :of="found" />
    <template v-if="found">
      <p class="mt-3 text-lead">{{ found.suggests }}</p>
      <p class="mt-3 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">{{ found.caution }}</p>
      <FoldSection title="What its parts are" says="expected readings follow from them">
        <div class="grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
          <TextField
            v-for="part in PARTS"
            :key="part.name"
            v-model="typed[part.name]"
            :label="part.label"
            mono
            :error="at(part.name)"
          />
        </div>
      </FoldSection>
      <p v-if="next" class="mt-4 text-lead" role="status">
        Next: <strong>{{ next.title }}</strong>, {{ next.how }}: <span class="font-mono">{{ next.expected }}</span>.
      </p>
      <p v-else-if="answer" class="mt-4 border-l-4 border-ochre px-3 py-2 text-lead" role="status">{{ found.says }}</p>
      <ul v-if="answer?.suspects.length" aria-label="Suspects" class="mt-2">
        <li
          v-for="suspect in answer.suspects"
          :key="suspect"
          class="mt-1 border-l-4 border-danger px-3 py-1 font-semibold"
        >
          {{ suspect }}
        </li>
      </ul>
      <ol class="mt-4 max-w-3xl" aria-label="Checks from the inlet">
        <li
          v-for="check in found.checks"
          :key="check.id"
          class="grid grid-cols-1 items-start gap-x-4 border-t border-slate2 py-3 sm:grid-cols-[minmax(0,1fr)_9rem_9rem]"
          :class="check.id === next?.id ? 'bg-ochre-w' : ''"
        >
          <div class="px-2">
            <p class="font-semibold">{{ check.title }}</p>
            <p class="text-small text-slate7">{{ check.how }}</p>
          </div>
          <p class="px-2 text-small">
            <span class="text-slate5">should read</span><br /><span class="font-mono">{{ check.expected }}</span>
          </p>
          <form class="px-2" novalidate @submit.prevent="note(key(check.id))">
            <TextField
              v-model="typed[key(check.id)]"
              :label="`${check.title}: reads`"
              mono
              :error="at(check.id) || (notedLast === check.id ? refused('value') : '')"
              :hint="check.found === 'as_expected' ? 'as expected' : check.found || 'OL for no reading'"
            />
            <ActionButton
              v-if="jobId && typed[key(check.id)] && typed[key(check.id)] !== noted[check.id]"
              class="mt-2"
              type="submit"
              >Write it down</ActionButton
            >
            <p v-else-if="noted[check.id]" class="mt-1 text-small text-slate5">on the record</p>
          </form>
        </li>
      </ol>
      <ProblemNote class="mt-3" :sentence="general" />
      <p v-if="answer?.left.length" class="mt-3 text-small text-slate7">
        Still to clear: {{ answer.left.join(', ') }}.
      </p>
    </template>
  </section>
</template>
