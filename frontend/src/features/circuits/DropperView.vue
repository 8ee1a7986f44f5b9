<script setup lang="ts">
import DropperBench from './DropperBench.vue'

/** The dropper bench by itself, without a job. */
const START = {
  topology: 'bridge',
  supply_voltage: '230 V',
  supply_frequency: '50 Hz',
  capacitance: '680 nF',
  series: '100 Ω',
  bleed: '470 kΩ',
  smoothing: '470 µF',
  clamp: '24 V',
  loads: 'standby 8 mA\nrelay 1090 Ω pulls in 16.8 V holds 9 V resets 7 V',
  zener_rating: '1.3 W',
  series_rating: '1 W',
  marked: '',
  reading: '',
  reading_error: '',
} as const
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Dropper bench</h1>
    <p class="mt-1 mb-4 max-w-prose text-slate7">
      A capacitor in series with the mains. Change a value and see what it gives, and what is seen as it ages.
    </p>
    <DropperBench :start="START" />
  </main>
</template>
