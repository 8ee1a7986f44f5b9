<script setup lang="ts">
import { ref } from 'vue'
import { ProblemError } from '@/api/client'
import TextField from '@/ui/TextField.vue'
import { useCommon } from './queries'

/** Which of the three terminals of a dual is common, from the readings between them. */
const typed = ref({ ab: '', bc: '', ac: '' })
const { data, error } = useCommon(typed)
const at = (field: string) => (error.value instanceof ProblemError ? error.value.at(field) : undefined)
</script>

<template>
  <section>
    <p>Call the terminals a, b and c, and measure two or three pairs. Type open for a pair that shows nothing.</p>
    <div class="mt-2 grid gap-3 sm:grid-cols-3">
      <TextField v-model="typed.ab" label="a to b" mono :error="at('ab')" />
      <TextField v-model="typed.bc" label="b to c" mono :error="at('bc')" />
      <TextField v-model="typed.ac" label="a to c" mono :error="at('ac')" />
    </div>
    <p v-if="data && !error" class="mt-2 text-lead font-semibold" role="status">{{ data.sentence }}</p>
  </section>
</template>
