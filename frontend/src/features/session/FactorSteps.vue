<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useBeginFactor, useConfirmFactor } from './queries'

/** Setting a second factor up: the password, what the authenticator reads and a code of it, then the recovery codes. */
const { codes: renewed, demanded } = defineProps<{ codes?: string[]; demanded?: boolean }>()
const emit = defineEmits<{ done: []; cancel: [] }>()
const begin = useBeginFactor()
const confirm = useConfirmFactor()
const password = ref('')
const code = ref('')
const begun = ref<Schemas['FactorBegun']>()
const made = ref<string[]>()
const codes = computed(() => made.value ?? renewed)
const field = useTemplateRef('field')

async function start() {
  begun.value = await begin.write({ password: password.value })
  password.value = ''
  await nextTick()
  field.value?.focus()
}
async function finish() {
  const answer = await confirm.write({ code: code.value })
  code.value = ''
  if (answer) made.value = answer.codes
}
const away = computed(() => (demanded ? 'Sign out' : 'Not now'))
const print = () => window.print()
</script>

<template>
  <div v-if="codes">
    <p class="mt-3">
      Ten recovery codes, for when the telephone is not there. Each counts once. Write them down or print them now: they
      are not shown again.
    </p>
    <ul class="mt-3 grid grid-cols-2 gap-x-6 gap-y-1 font-mono text-value" aria-label="Recovery codes">
      <li v-for="one in codes" :key="one">{{ one }}</li>
    </ul>
    <div class="mt-5 flex flex-wrap gap-3 print:hidden">
      <ActionButton primary @click="emit('done')">I have them</ActionButton>
      <ActionButton @click="print">Print them</ActionButton>
    </div>
  </div>
  <form v-else-if="!begun" class="mt-3" novalidate @submit.prevent="start">
    <p>An authenticator on your telephone shows six digits that you type after your password.</p>
    <TextField
      v-model="password"
      class="mt-4"
      label="Your password"
      type="password"
      autocomplete="current-password"
      :error="begin.at('password')"
    />
    <ProblemNote class="mt-3" :sentence="begin.general.value" />
    <div class="mt-4 flex flex-wrap gap-3">
      <ActionButton primary type="submit" :disabled="begin.pending.value">Go on</ActionButton>
      <ActionButton @click="emit('cancel')">{{ away }}</ActionButton>
    </div>
  </form>
  <form v-else class="mt-3" novalidate @submit.prevent="finish">
    <div class="flex flex-wrap items-start gap-5">
      <svg
        :viewBox="`-2 -2 ${begun.modules + 4} ${begun.modules + 4}`"
        class="size-48 shrink-0 bg-[#fff] text-[#000]"
        role="img"
        aria-label="Code that the authenticator reads"
      >
        <path :d="begun.dark" fill="currentColor" />
      </svg>
      <div class="min-w-48 flex-1">
        <p>Let the authenticator read this, or type the secret into it:</p>
        <p class="mt-1 font-mono break-all" data-secret>{{ begun.secret }}</p>
        <TextField
          ref="field"
          v-model="code"
          class="mt-4"
          label="The code it shows now"
          autocomplete="one-time-code"
          mono
          :error="confirm.at('code')"
        />
      </div>
    </div>
    <ProblemNote class="mt-3" :sentence="confirm.general.value" />
    <div class="mt-4 flex flex-wrap gap-3">
      <ActionButton primary type="submit" :disabled="confirm.pending.value">Set it up</ActionButton>
      <ActionButton @click="emit('cancel')">{{ away }}</ActionButton>
    </div>
  </form>
</template>
