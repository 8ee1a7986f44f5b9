<script setup lang="ts">
import { useId, useTemplateRef } from 'vue'

/** One row of a proof: what the meter shows on a source that is known to be live, on DC and on AC. */
defineProps<{ label: string; headed?: boolean; errors: { dc?: string; ac?: string } }>()
const dc = defineModel<string>('dc')
const ac = defineModel<string>('ac')
const id = useId()
const field = useTemplateRef('field')
defineExpose({ focus: () => field.value?.focus() })
const FIELD = 'min-h-11 w-full rounded-sm border bg-sheet px-3 py-2 font-mono'
</script>

<template>
  <div class="grid grid-cols-[minmax(0,1fr)_5.75rem_5.75rem] items-center gap-x-3 gap-y-1 py-1">
    <template v-if="headed">
      <span></span>
      <span class="text-small text-slate5" aria-hidden="true">DC, V</span>
      <span class="text-small text-slate5" aria-hidden="true">AC, V</span>
    </template>
    <span :id class="font-semibold">{{ label }}</span>
    <input
      ref="field"
      v-model="dc"
      :aria-label="`${label}, DC`"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="errors.dc ? true : undefined"
      :class="[FIELD, errors.dc ? 'border-2 border-danger' : 'border-slate3']"
    />
    <input
      v-model="ac"
      :aria-label="`${label}, AC`"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="errors.ac ? true : undefined"
      :class="[FIELD, errors.ac ? 'border-2 border-danger' : 'border-slate3']"
    />
    <p v-if="errors.dc ?? errors.ac" role="alert" class="col-span-full text-small font-semibold text-danger">
      {{ errors.dc ?? errors.ac }}
    </p>
  </div>
</template>
