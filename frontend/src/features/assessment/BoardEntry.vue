<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
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
import { useEnterLine } from './queries'

/** A board, line by line: marking, reading, Enter; the name counts on, and what it does stays as it was. */
const { jobId, names } = defineProps<{ jobId: string; names: string[] }>()
const { data: words } = useVocabulary()
const { data: meters } = useMeters()
const { meter, options: meterOptions } = useLastMeter(meters)
const { write, pending, at, general } = useEnterLine(jobId)
const counted = (last: string) => last.replace(/\d+(?=\D*$)/, (digits) => String(Number(digits) + 1))
const next = () => {
  let name = names.length ? counted(names.at(-1) ?? '') : 'C1'
  while (names.includes(name) && counted(name) !== name) name = counted(name)
  return name
}
const name = ref(next())
const role = ref<Schemas['Role']>('smoothing')
const marking = ref('')
const value = ref('')
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

async function enter() {
  const line = { name: name.value, role: role.value, role_chosen: chosen.value, marking: marking.value }
  const done = await write({
    ...line,
    value: value.value,
    meter_id: value.value ? meter.value : null,
    condition: condition.value,
  })
  if (!done) return
  kept.value = `${done.name}: ${VERDICTS[done.word].title}`
  name.value = counted(done.name)
  role.value = done.role
  chosen.value = false
  marking.value = value.value = ''
  field.value?.focus()
}
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
      <ActionButton class="mt-6 max-sm:justify-center" primary type="submit" hint="r" :disabled="pending"
        >Next</ActionButton
      >
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
  </form>
</template>
