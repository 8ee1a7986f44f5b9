<script setup lang="ts">
import { useId, useTemplateRef } from 'vue'

/** A labelled field; what is wrong with it is said under it. */
defineProps<{
  label: string
  error?: string
  hint?: string
  type?: 'text' | 'password' | 'number' | 'date'
  mono?: boolean
  multiline?: boolean
  rows?: number
  autocomplete?: string
  required?: boolean
}>()
const model = defineModel<string | number | null>()
const id = useId()
const field = useTemplateRef<HTMLInputElement | HTMLTextAreaElement>('field')
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div>
    <label :for="id" class="block text-small font-semibold text-slate7">{{ label }}</label>
    <component
      :is="multiline ? 'textarea' : 'input'"
      :id
      ref="field"
      :value="model ?? ''"
      :type="multiline ? undefined : (type ?? 'text')"
      :rows="multiline ? (rows ?? 2) : undefined"
      :step="type === 'number' ? 'any' : undefined"
      :autocomplete="autocomplete ?? 'off'"
      :required
      :aria-invalid="error ? true : undefined"
      :aria-describedby="error || hint ? `${id}-says` : undefined"
      class="mt-1 min-h-11 w-full rounded-sm border bg-sheet px-3 py-2"
      :class="[error ? 'border-2 border-danger' : 'border-slate3', mono ? 'font-mono' : '']"
      @input="model = ($event.target as HTMLInputElement).value"
    />
    <p v-if="error" :id="`${id}-says`" class="mt-1 text-small font-semibold text-danger" role="alert">{{ error }}</p>
    <p v-else-if="hint" :id="`${id}-says`" class="mt-1 text-small text-slate5">{{ hint }}</p>
  </div>
</template>
