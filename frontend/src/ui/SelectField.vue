<script setup lang="ts">
import { useId } from 'vue'

/** A labelled choice of one; Enter sends its form, as it does in every other field. */
defineProps<{ label: string; options: { id: string; title: string }[]; error?: string }>()
const model = defineModel<string>()
const id = useId()
</script>

<template>
  <div>
    <label :for="id" class="block text-small font-semibold text-slate7">{{ label }}</label>
    <select
      :id
      v-model="model"
      :aria-invalid="error ? true : undefined"
      :aria-describedby="error ? `${id}-says` : undefined"
      class="mt-1 min-h-11 w-full rounded-sm border bg-sheet px-3 py-2"
      :class="error ? 'border-2 border-danger' : 'border-slate3'"
      @keydown.enter.prevent="($event.target as HTMLSelectElement).form?.requestSubmit()"
    >
      <option v-for="option in options" :key="option.id" :value="option.id">{{ option.title }}</option>
    </select>
    <p v-if="error" :id="`${id}-says`" class="mt-1 text-small font-semibold text-danger" role="alert">{{ error }}</p>
  </div>
</template>
