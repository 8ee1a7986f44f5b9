<script setup lang="ts">
import { computed, reactive, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useKept } from '@/api/kept'
import { useShortcuts } from '@/app/shortcuts'
import { useLastMeter } from '@/features/instruments/lastMeter'
import { useMeters } from '@/features/instruments/queries'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useMakeCheck } from './queries'

/** The next check: how it is taken, and what was read. */
const { check, jobId } = defineProps<{ check: Schemas['ProofCheckOut']; jobId: string }>()
const { write, pending, queued, at, general } = useMakeCheck(jobId)
const { data: meters } = useMeters()
/** Only meters that can measure it are offered. */
const able = computed(() =>
  meters.value?.filter((one) => !check.measured_as || one.measures.includes(check.measured_as)),
)
const { meter, options } = useLastMeter(able)
const typed = reactive({ value: '', against: '', lead: '' })
const inWords = computed(() => check.quantity === 'yes')
const field = useTemplateRef('field')
useShortcuts({ r: () => field.value?.focus() })
const { forget } = useKept(`check ${jobId} ${check.id} ${check.at ?? ''}`, typed)
async function send(value: string) {
  const body = { ...typed, value, check_id: check.id, meter_id: inWords.value ? null : meter.value }
  if (!(await write(body)) && !queued.value) return
  typed.value = ''
  forget()
}
</script>

<template>
  <form
    class="mt-4 border-t-4 border-ochre bg-sheet p-4"
    novalidate
    :aria-label="check.title"
    @submit.prevent="send(typed.value)"
  >
    <p class="flex flex-wrap items-baseline gap-x-4">
      <span class="text-lead font-semibold"
        ><template v-if="check.place">{{ check.place }}: </template>{{ check.title }}</span
      >
      <span v-if="!inWords" class="font-mono text-value">{{ check.limit }}</span>
    </p>
    <p class="text-slate7">{{ check.how }}</p>
    <div v-if="inWords" class="mt-3 flex gap-3">
      <ActionButton primary :disabled="pending" @click="send('yes')">Yes</ActionButton>
      <ActionButton :disabled="pending" @click="send('no')">No</ActionButton>
    </div>
    <div v-else class="mt-3 grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto]">
      <TextField
        ref="field"
        v-model="typed.value"
        :label="
          check.measured_as === 'current' && check.unit === 'F'
            ? 'Read, A'
            : check.readings > 1
              ? `${check.readings} readings, ${check.unit}`
              : `Read, ${check.unit || 'such as 0.14'}`
        "
        :hint="check.readings > 1 ? 'apart by blanks: 12 8 31 …' : undefined"
        mono
        :error="at('value')"
      />
      <SelectField v-model="meter" label="Meter" :options :error="at('meter_id')" />
      <ActionButton class="sm:mt-6" primary type="submit" hint="r" :disabled="pending">Judge it</ActionButton>
      <TextField
        v-if="check.against"
        v-model="typed.against"
        :label="`Against ${check.against}`"
        mono
        :error="at('against')"
      />
      <TextField
        v-if="check.id === 'earth'"
        v-model="typed.lead"
        label="The lead alone"
        hint="such as 0.08 Ω"
        mono
        :error="at('lead')"
      />
    </div>
    <ProblemNote class="mt-3" :sentence="general" />
  </form>
</template>
