<script setup lang="ts">
import { nextTick, onMounted, ref, useTemplateRef } from 'vue'
import { ProblemError } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import BrandMark from '@/ui/BrandMark.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useSession } from './queries'

defineProps<{ again?: boolean }>()
const emit = defineEmits<{ done: [] }>()
const { signIn } = useSession()
const username = ref('')
const password = ref('')
const code = ref('')
const codeAsked = ref('')
const codeField = useTemplateRef('codeField')
const problem = ref('')
const pending = ref(false)
const first = useTemplateRef('first')
onMounted(() => first.value?.focus())

async function submit() {
  pending.value = true
  problem.value = ''
  try {
    await signIn({ username: username.value, password: password.value, code: code.value })
    emit('done')
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    codeAsked.value = error.at('code') ?? ''
    problem.value = codeAsked.value ? '' : error.message
    if (codeAsked.value) {
      code.value = ''
      await nextTick()
      codeField.value?.focus()
    }
  } finally {
    pending.value = false
  }
}
</script>

<template>
  <main class="flex min-h-dvh items-center justify-center bg-paper p-4">
    <form class="w-full max-w-sm" @submit.prevent="submit">
      <div class="flex items-center gap-3">
        <BrandMark class="size-10" />
        <h1 class="text-value font-bold">Dusky Heron</h1>
      </div>
      <p class="mt-2 text-slate7">
        {{
          again
            ? 'You were signed out. Sign in again: what you typed is still there.'
            : 'What is on the capacitor, what it can do, what may take its place.'
        }}
      </p>
      <TextField ref="first" v-model="username" class="mt-6" label="User name" autocomplete="username" required />
      <TextField
        v-model="password"
        class="mt-4"
        label="Password"
        type="password"
        autocomplete="current-password"
        required
      />
      <TextField
        v-if="codeAsked"
        ref="codeField"
        v-model="code"
        class="mt-4"
        label="Code"
        autocomplete="one-time-code"
        mono
        :error="codeAsked"
      />
      <ProblemNote class="mt-4" :sentence="problem" />
      <ActionButton class="mt-6 w-full justify-center" primary type="submit" :disabled="pending">Sign in</ActionButton>
      <p class="mt-8 text-small text-slate5">
        Local codes, the equipment’s standard and licensed practice decide over anything shown here.
      </p>
    </form>
  </main>
</template>
