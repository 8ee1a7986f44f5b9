<script setup lang="ts">
import TextField from '@/ui/TextField.vue'

/** What somebody signs for before a part is taken, sentence by sentence, and a resistor that makes up for one that is lost. */
defineProps<{ toSign: string[]; at: (field: string) => string | undefined }>()
const signed = defineModel<string[]>('signed', { required: true })
const bleeder = defineModel<string>('bleeder', { required: true })
const series = defineModel<string>('series', { required: true })
</script>

<template>
  <fieldset class="mt-4 border-l-[3px] border-ochre bg-ochre-w px-3 py-2">
    <legend class="sr-only">To be signed</legend>
    <p class="font-semibold">To be signed by who takes it</p>
    <label v-for="sentence in toSign" :key="sentence" class="flex min-h-11 items-center gap-x-3">
      <input v-model="signed" type="checkbox" class="size-5 shrink-0 accent-tide" :value="sentence" />
      <span>{{ sentence }}</span>
    </label>
    <div class="mt-1 grid gap-3 sm:grid-cols-2">
      <TextField
        v-if="toSign.some((one) => one.includes('bleeder'))"
        v-model="bleeder"
        label="Bleeder fitted across it"
        hint="such as 10M; then it is not signed for"
        mono
        :error="at('bleeder')"
      />
      <TextField
        v-if="toSign.some((one) => one.includes('in series inside'))"
        v-model="series"
        label="Resistor fitted in series"
        hint="such as 100 Ω; then it is not signed for"
        mono
        :error="at('series')"
      />
    </div>
    <p v-if="at('signed')" class="mt-1 text-small font-semibold text-danger" role="alert">{{ at('signed') }}</p>
  </fieldset>
</template>
