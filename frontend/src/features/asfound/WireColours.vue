<script setup lang="ts">
/** The insulation of a wire as a short length of it; the words beside it carry the meaning. */
const { colours } = defineProps<{ colours: string[] }>()
const INSULATION: Record<string, string> = {
  black: '#15181a',
  brown: '#6f4320',
  red: '#b3261b',
  orange: '#d6711c',
  yellow: '#e3c02f',
  green: '#2f7d3b',
  blue: '#2b5f9e',
  violet: '#6c4a94',
  grey: '#8b9499',
  white: '#f7f7f4',
  pink: '#dd9aa6',
  turquoise: '#3fa3a0',
  gold: '#b08d3c',
  silver: '#c3c8ca',
  tan: '#c4a377',
  maroon: '#6d1f2b',
  cream: '#efe6c8',
  bare: '#b87333',
  clear: '#dfe5e6',
}
</script>

<template>
  <svg viewBox="0 0 40 12" class="h-3 w-10 shrink-0" aria-hidden="true">
    <rect
      v-for="(colour, index) in colours.length ? colours : ['clear']"
      :key="index"
      x="1"
      :y="1 + (index * 10) / (colours.length || 1)"
      width="38"
      :height="10 / (colours.length || 1)"
      :fill="INSULATION[colour] ?? '#8b9499'"
    />
    <rect x="1" y="1" width="38" height="10" fill="none" class="stroke-slate5" stroke-width="1" />
  </svg>
</template>
