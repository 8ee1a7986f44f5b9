<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** Faults by how well they explain what was measured, the likeliest first. */
const { suspects } = defineProps<{ suspects: Schemas['SuspectOut'][] }>()
</script>

<template>
  <ol class="mt-2 max-w-3xl" aria-label="Suspects, the likeliest first">
    <li
      v-for="(suspect, index) in suspects"
      :key="suspect.titles[0]"
      class="grid grid-cols-[2rem_minmax(0,1fr)] gap-x-2 border-t border-slate2 py-2"
    >
      <span class="font-mono text-value" :class="index ? 'text-slate5' : 'font-medium'">{{ index + 1 }}</span>
      <div>
        <p :class="suspect.explains ? 'text-lead font-semibold' : ''">
          <template v-for="(title, place) in suspect.titles" :key="title"
            >{{ place ? ', or ' : '' }}{{ title
            }}<span v-if="suspect.shows[place]" class="font-mono">, {{ suspect.shows[place] }}</span></template
          >
        </p>
        <div class="mt-1 h-1.5 bg-slate1" aria-hidden="true">
          <div
            class="h-full"
            :class="suspect.explains ? 'bg-ochre' : 'bg-slate3'"
            :style="{ width: `${suspect.fit * 100}%` }"
          />
        </div>
        <p class="mt-1 text-small text-slate5">
          {{ suspect.explains ? 'Explains what was measured' : 'Does not explain it' }}: on average
          {{ suspect.misfit }} errors of a reading away; {{ suspect.least }}.
        </p>
      </div>
    </li>
  </ol>
</template>
