<script setup lang="ts">
import { useId, useTemplateRef } from 'vue'

/** One row of a proof: what the meter shows on a source that is known to be live. */
defineProps<{ label: string; error?: string }>()
const model = defineModel<string>()
const id = useId()
const field = useTemplateRef('field')
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <label :for="id" class="font-semibold">{{ label }}</label>
  <input
    :id
    ref="field"
    v-model="model"
    autocomplete="off"
    :aria-invalid="error ? true : undefined"
    class="col-span-2 min-h-11 w-full rounded-sm border bg-sheet px-3 py-2 font-mono"
    :class="error ? 'border-2 border-danger' : 'border-slate3'"
  />
  <p v-if="error" role="alert" class="col-span-3 text-small font-semibold text-danger">{{ error }}</p>
</template>
