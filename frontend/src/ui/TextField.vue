<script setup lang="ts">
import { computed, useId, useTemplateRef } from 'vue'

/** A labelled field; what is wrong with it is said under it. One that `grows` shows the whole of a long line, and is still one. */
const { multiline, grows } = defineProps<{
  label: string
  error?: string
  hint?: string
  type?: 'text' | 'password' | 'number' | 'date'
  mono?: boolean
  multiline?: boolean
  grows?: boolean
  rows?: number
  autocomplete?: string
  required?: boolean
}>()
const model = defineModel<string | number | null>()
const id = useId()
const field = useTemplateRef<HTMLInputElement | HTMLTextAreaElement>('field')
const area = computed(() => multiline || grows)
function typed(field: HTMLInputElement | HTMLTextAreaElement) {
  if (grows) field.value = field.value.replace(/[\r\n]+/g, ' ') // pasted
  model.value = field.value
}
function enter(event: KeyboardEvent) {
  if (!grows || event.isComposing || event.ctrlKey || event.altKey) return
  event.preventDefault()
  field.value?.form?.requestSubmit()
}
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div>
    <label :for="id" class="block text-small font-semibold text-slate7">{{ label }}</label>
    <component
      :is="area ? 'textarea' : 'input'"
      :id
      ref="field"
      :value="model ?? ''"
      :type="area ? undefined : (type ?? 'text')"
      :rows="grows ? 1 : multiline ? (rows ?? 2) : undefined"
      :step="type === 'number' ? 'any' : undefined"
      :autocomplete="autocomplete ?? 'off'"
      :required
      :aria-invalid="error ? true : undefined"
      :aria-describedby="error || hint ? `${id}-says` : undefined"
      class="mt-1 min-h-11 w-full rounded-sm border bg-sheet px-3 py-2"
      :class="[
        error ? 'border-2 border-danger' : 'border-slate3',
        mono ? 'font-mono' : '',
        grows ? 'block field-sizing-content resize-none' : '',
      ]"
      @input="typed($event.target as HTMLInputElement)"
      @keydown.enter="enter"
    />
    <p v-if="error" :id="`${id}-says`" class="mt-1 text-small font-semibold text-danger" role="alert">{{ error }}</p>
    <p v-else-if="hint" :id="`${id}-says`" class="mt-1 text-small text-slate5">{{ hint }}</p>
  </div>
</template>
