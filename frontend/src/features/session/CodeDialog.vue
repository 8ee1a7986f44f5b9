<script setup lang="ts">
import { onMounted, ref, useTemplateRef } from 'vue'
import { ask, client, ProblemError } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import TextField from '@/ui/TextField.vue'

/** Asks for a code of the second factor when a signature wants one, over whatever dialog is open. */
const emit = defineEmits<{ done: [given: boolean] }>()
const sheet = useTemplateRef<HTMLDialogElement>('sheet')
const field = useTemplateRef('field')
const code = ref('')
const wrong = ref('')
onMounted(() => {
  sheet.value?.showModal()
  field.value?.focus()
})
async function give() {
  try {
    await ask(client.POST('/api/session/code', { body: { code: code.value } }))
    emit('done', true)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    wrong.value = error.at('code') ?? error.message
    code.value = ''
    field.value?.focus()
  }
}
</script>

<template>
  <Teleport to="body">
    <dialog
      ref="sheet"
      class="m-auto w-full max-w-sm border-t-4 border-ochre bg-paper p-5 text-ink backdrop:bg-ink/40 sm:p-6"
      aria-labelledby="code-asked"
      @cancel.prevent="emit('done', false)"
      @keydown.stop
    >
      <form novalidate @submit.prevent="give">
        <h2 id="code-asked" class="text-title font-semibold">Sign with a code</h2>
        <TextField
          ref="field"
          v-model="code"
          class="mt-3"
          label="Code of your authenticator"
          hint="the six digits it shows now, or a recovery code"
          autocomplete="one-time-code"
          mono
          :error="wrong"
        />
        <div class="mt-4 flex flex-wrap gap-3">
          <ActionButton primary type="submit">Sign</ActionButton>
          <ActionButton @click="emit('done', false)">Cancel</ActionButton>
        </div>
      </form>
    </dialog>
  </Teleport>
</template>
