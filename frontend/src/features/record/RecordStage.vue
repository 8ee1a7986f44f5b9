<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import EntryBody from './EntryBody.vue'
import StrikeLine from './StrikeLine.vue'
import { useRecord, useVerified } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** The record of a job, oldest first: who, when, what; and whether its chain is whole. */
const { sheet } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: entries, error } = useRecord(sheet.job.id)
const { data: verified, refetch, isFetching } = useVerified(sheet.job.id)
useShortcuts({ v: () => void refetch() })
const person = ref('')
const kind = ref('')
const words = ref('')
const some = (all: string, names: (string | undefined)[]) => [
  { id: '', title: all },
  ...[...new Set(names)].filter(Boolean).map((name) => ({ id: String(name), title: String(name) })),
]
const people = computed(() =>
  some(
    'everybody',
    (entries.value ?? []).map((entry) => entry.by_name),
  ),
)
const kinds = computed(() =>
  some(
    'everything',
    (entries.value ?? []).map((entry) => entry.kind),
  ),
)
const shown = computed(() =>
  (entries.value ?? []).filter(
    (entry) =>
      (!person.value || entry.by_name === person.value) &&
      (!kind.value || entry.kind === kind.value) &&
      JSON.stringify(entry.body).toLowerCase().includes(words.value.toLowerCase()),
  ),
)
const time = (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'medium' })
</script>

<template>
  <section class="p-5" aria-label="Record">
    <div class="flex flex-wrap items-center justify-between gap-4">
      <p v-if="verified?.whole" class="text-lead font-semibold text-tide" role="status">
        Chain whole: {{ verified.length }} entries, none altered.
      </p>
      <div v-else-if="verified" class="text-danger" role="alert">
        <p v-if="verified.first_altered" class="text-lead font-semibold">
          Altered: entry {{ verified.first_altered }} does not fit the chain.
        </p>
        <p v-else class="text-lead font-semibold">Altered: what is shown is not what was written.</p>
        <ul>
          <li v-for="said in verified.differs" :key="said">{{ said }}</li>
        </ul>
      </div>
      <ActionButton hint="v" :disabled="isFetching" @click="refetch()">Verify again</ActionButton>
    </div>
    <p v-if="verified" class="mt-1 font-mono text-small break-all text-slate5">head {{ verified.head }}</p>
    <ProblemNote v-if="error" class="mt-3" :sentence="error.message" />
    <WaitingShape class="mt-3" :when="!entries && !error" :rows="8" />
    <div v-if="entries" class="mt-4 grid max-w-3xl grid-cols-2 gap-3 sm:grid-cols-3">
      <SelectField v-model="kind" label="What" :options="kinds" />
      <SelectField v-model="person" label="Who" :options="people" />
      <TextField v-model="words" label="Holds the words" />
    </div>
    <p v-if="entries && shown.length < entries.length" class="mt-2 text-small text-slate5" role="status">
      {{ shown.length }} of {{ entries.length }} entries
    </p>
    <ol class="mt-4">
      <li
        v-for="entry in shown"
        :key="entry.sequence"
        class="grid gap-x-4 border-t border-slate2 py-3 sm:grid-cols-[2rem_11rem_minmax(0,1fr)]"
      >
        <span class="font-mono text-slate5">{{ entry.sequence }}</span>
        <span class="text-small text-slate5"
          >{{ entry.at ? time(entry.at) : 'no time' }}<span class="block text-ink">{{ entry.by_name }}</span></span
        >
        <span>
          <strong class="block font-semibold first-letter:uppercase"
            ><span :class="entry.struck_by ? 'text-slate5 line-through' : ''">{{ entry.kind }}</span
            ><span v-if="entry.struck_by" class="font-normal"> · struck by entry {{ entry.struck_by }}</span></strong
          >
          <span v-if="entry.taken_at" class="block text-small text-slate5"
            >taken {{ time(entry.taken_at) }}, without a server</span
          >
          <EntryBody :body="entry.body" />
          <StrikeLine
            v-if="entry.may_strike"
            class="-ml-2"
            :sequence="entry.sequence"
            :what="`entry ${entry.sequence}, ${entry.kind}`"
          />
        </span>
      </li>
    </ol>
  </section>
</template>
