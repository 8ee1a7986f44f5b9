<script setup lang="ts">
import { useKept } from '@/api/kept'
import { reactive, ref } from 'vue'
import { useAsksFor } from '@/api/may'
import type { Schemas } from '@/api/client'
import { useMe } from '@/features/session/queries'
import ActionButton from '@/ui/ActionButton.vue'
import TextField from '@/ui/TextField.vue'
import { useSignDeviation } from './queries'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { STATES } from './states'

/** One check with its limit, its source and where it stands; a lead may sign it as it is. */
const { check, jobId } = defineProps<{
  check: Schemas['ProofCheckOut']
  jobId: string
  open: boolean
  elsewhere: boolean
}>()
const emit = defineEmits<{ choose: [] }>()
const { data: me } = useMe()
const { write: sign, pending, at, general } = useSignDeviation(jobId)
const other = useAsksFor()('lead')
const signing = ref(false)
const reason = ref('')
const { resumed, forget } = useKept(`deviation ${jobId} ${check.id}`, reactive({ reason }))
signing.value = resumed !== null
async function send() {
  if (await sign({ check_id: check.id, reason: reason.value })) {
    signing.value = false
    reason.value = ''
    forget()
  }
}
</script>

<template>
  <li class="border-b border-slate2 py-2" :class="open ? 'bg-sheet' : ''">
    <div
      class="grid grid-cols-[1.750rem_minmax(0,1fr)] sm:grid-cols-[1.750rem_minmax(0,1fr)_auto] items-start gap-x-3 px-1"
    >
      <svg
        viewBox="0 0 32 32"
        class="mt-0.5 size-6"
        :class="STATES[check.state].colour"
        fill="none"
        stroke="currentColor"
        stroke-width="3"
        stroke-linecap="round"
        aria-hidden="true"
      >
        <path :d="STATES[check.state].path" />
      </svg>
      <div>
        <p class="font-semibold">
          <template v-if="check.place">{{ check.place }}: </template>{{ check.title }}
          <span class="font-normal" :class="STATES[check.state].colour">{{ check.state }}</span>
          <span v-if="!check.required" class="font-normal text-slate5"> · not asked for</span>
        </p>
        <p v-if="check.sentence">{{ check.sentence }}</p>
        <p class="text-small text-slate5">
          <template v-if="check.limit">{{ check.limit }} · </template>{{ check.source
          }}<template v-if="check.by_name"> · {{ check.by_name }}</template>
        </p>
        <p v-if="elsewhere && check.state === 'missing'" class="text-small">{{ check.how }}</p>
      </div>
      <div class="flex flex-wrap gap-2 max-sm:col-start-2 max-sm:mt-1 sm:justify-end">
        <StrikeLine v-if="check.sequence" :sequence="check.sequence" :what="`${check.place} ${check.title}`.trim()" />
        <ActionButton v-if="!elsewhere && !open" @click="emit('choose')">{{
          check.typed ? 'Again' : 'Type it'
        }}</ActionButton>
        <button
          v-if="me && check.required && check.state !== 'passes' && check.state !== 'signed' && !signing"
          class="min-h-11 px-2 text-small underline decoration-slate3 underline-offset-4"
          @click="signing = true"
        >
          {{ other ? 'Propose a deviation' : 'Sign a deviation' }}
        </button>
      </div>
    </div>
    <form v-if="signing" class="mt-2 flex flex-wrap items-end gap-3 px-1" novalidate @submit.prevent="send">
      <TextField
        v-model="reason"
        class="min-w-64 flex-1"
        label="Why it may go back so"
        :error="at('reason') || general"
      />
      <ActionButton type="submit" primary asks="lead" proposes :disabled="pending">Sign it</ActionButton>
      <ActionButton @click="signing = false">Leave it</ActionButton>
    </form>
  </li>
</template>
