<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import LinePlot from '@/ui/LinePlot.vue'

/** The rail after the command, at the lowest mains: what is heard, drawn and told. */
const { command } = defineProps<{ command: Schemas['CommandOut'] }>()
const levels = computed(() =>
  [...command.levels]
    .sort((a, b) => b.volts - a.volts)
    .map((level) => ({ name: `${level.says} ${level.volts.toFixed(1)} V`, value: level.volts })),
)
const marks = computed(() => command.heard.slice(0, 6).map((moment) => ({ name: moment.says, x: moment.seconds })))
</script>

<template>
  <figure class="mt-5">
    <figcaption class="text-lead">
      At {{ command.supply.number }} {{ command.supply.unit }}, given the command, it
      <strong>{{ command.outcome }}</strong>.
    </figcaption>
    <LinePlot
      class="mt-1"
      :data="[command.seconds, command.volts]"
      :lines="[{ colour: 'ochre' }]"
      :says="`Rail after the command: it ${command.outcome}.`"
      x-label="seconds after the command"
      y-label="rail, volts"
      :levels
      :marks
    />
    <details class="mt-1 text-small">
      <summary class="min-h-11 py-3">What happens when, as a table</summary>
      <table class="text-left tabular-nums">
        <tbody>
          <tr v-for="moment in command.heard" :key="`${moment.seconds}${moment.says}`">
            <td class="pr-6 font-mono">{{ moment.seconds.toFixed(2) }} s</td>
            <td>{{ moment.says }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </figure>
</template>
