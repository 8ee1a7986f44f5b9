<script setup lang="ts">
import { computed, onMounted, reactive, ref, toRef, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useKept } from '@/api/kept'
import { useVocabulary } from '@/api/vocabulary'
import { useShortcuts } from '@/app/shortcuts'
import { useMeters } from '@/features/instruments/queries'
import { useLastMeter } from '@/features/instruments/lastMeter'
import MarkingEcho from '@/features/reading/MarkingEcho.vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { VERDICTS } from '@/ui/verdicts'
import type { Entered } from '@/api/lines'
import { saysElsewhere } from '@/api/write'
import EnteredLines from '@/ui/EnteredLines.vue'
import { useEnterLines, type BoardLine } from './queries'

/**
 * A board, line by line: marking, reading, Enter; the name counts on, and what it does stays as it was.
 * Typing never waits: a line that was entered is sent behind the field.
 */
const { jobId, names } = defineProps<{ jobId: string; names: string[] }>()
const { data: words } = useVocabulary()
const { data: meters } = useMeters()
const { meter, options: meterOptions } = useLastMeter(meters)
const { entered, back, put, mend } = useEnterLines(jobId, judged)
const problem = ref<Schemas['Problem']>()
const at = (field: string) => problem.value?.errors.find((error) => error.field === field)?.sentence
const counted = (last: string) => last.replace(/\d+(?=\D*$)/, (digits) => String(Number(digits) + 1))
const after = (last: string) => {
  const taken = new Set([...names, ...entered.value.map((row) => row.line.name)])
  let name = counted(last)
  while (taken.has(name) && counted(name) !== name) name = counted(name)
  return name
}
const last = entered.value.at(-1)?.line.name ?? names.at(-1)
const name = ref(last ? after(last) : 'C1')
const role = ref<Schemas['Role']>('smoothing')
const typed = reactive({ marking: '', value: '' })
useKept(`board ${jobId}`, typed)
const marking = toRef(typed, 'marking')
const value = toRef(typed, 'value')
const begun = computed(() => Boolean(marking.value || value.value))
const condition = ref<Schemas['Condition']>('lifted')
const kept = ref('')
const field = useTemplateRef('field')
onMounted(() => !names.length && field.value?.focus())
useShortcuts({ r: () => field.value?.focus() })
// The role a marking points to is taken unless somebody chose another for this line; else that of the line before stays.
const chosen = ref(false)
const suggest = (read: Schemas['ReadOut']) => {
  if (!chosen.value && read.likely_role) role.value = read.likely_role
}
const conditions = computed(() => (words.value?.conditions ?? []).filter((known) => known.id !== 'in_service'))

function enter() {
  if (!begun.value && back.value) {
    takeBack(back.value)
    return
  }
  put({
    name: name.value,
    role: role.value,
    role_chosen: chosen.value,
    marking: marking.value,
    value: value.value,
    meter_id: value.value ? meter.value : null,
    condition: condition.value,
  })
  problem.value = undefined
  kept.value = ''
  name.value = after(name.value)
  chosen.value = false
  marking.value = value.value = ''
  field.value?.focus()
}
function judged(done: Schemas['BoardLineOut']) {
  kept.value = `${done.name}: ${VERDICTS[done.word].title}`
  if (!chosen.value && !begun.value) role.value = done.role
}
/** Back into its fields, what is wrong beside them: when somebody asks, never into what they are typing. */
function takeBack(row: Entered<BoardLine>) {
  const line = mend(row.key)
  if (!line) return
  name.value = line.name
  role.value = line.role
  chosen.value = line.role_chosen
  marking.value = line.marking
  value.value = line.value
  problem.value = row.refused
  field.value?.focus()
}
const FIELDS = ['name', 'role', 'marking', 'value', 'meter_id', 'condition']
const general = computed(() => (problem.value ? saysElsewhere(problem.value, FIELDS) : ''))
const said = (line: BoardLine) => `${line.name} ${line.marking} ${line.value}`.trim()
</script>

<template>
  <form class="bg-sheet px-5 py-4" aria-label="A line of the board" @submit.prevent="enter">
    <div
      class="grid grid-cols-[6rem_minmax(0,1fr)] items-start gap-3 sm:grid-cols-[5.500rem_12rem_minmax(0,1fr)_9rem_auto]"
    >
      <TextField v-model="name" label="Name" mono :error="at('name')" />
      <SelectField
        v-model="role"
        label="What it does"
        :options="words?.roles ?? []"
        :error="at('role')"
        @change="chosen = true"
      />
      <TextField
        ref="field"
        v-model="marking"
        class="max-sm:col-span-2"
        label="What is printed on it"
        mono
        :error="at('marking')"
      />
      <TextField v-model="value" label="Reads" mono :error="at('value')" />
      <ActionButton class="mt-6 max-sm:justify-center" primary type="submit" hint="r">Next</ActionButton>
    </div>
    <MarkingEcho :text="marking" :role="role" @read="suggest" @choose="marking = $event" />
    <div class="mt-2 grid grid-cols-2 items-end gap-x-3 sm:flex sm:flex-wrap">
      <SelectField
        v-model="meter"
        class="min-w-0 sm:min-w-60"
        label="Meter"
        :options="meterOptions"
        :error="at('meter_id')"
      />
      <SelectField v-model="condition" label="Measured" :options="conditions" :error="at('condition')" />
      <p class="min-h-11 py-2.5 max-sm:col-span-2 font-semibold text-tide" role="status">{{ kept }}</p>
    </div>
    <ProblemNote class="mt-2" :sentence="general" />
    <EnteredLines :entered :said :begun @mend="takeBack" />
  </form>
</template>
