<script setup lang="ts">
import FigureValue from '@/ui/FigureValue.vue'
import LimitChecks from './LimitChecks.vue'
import { usePins } from './queries'

/** Between the plug pins after unplugging, at the worst phase. */
const { jobId, fixed } = defineProps<{ jobId: string; fixed: boolean }>()
const { data: pins } = usePins(jobId, true)
</script>

<template>
  <section v-if="pins">
    <p v-if="pins.missing" class="mt-2">{{ pins.missing }}</p>
    <template v-else>
      <p class="mt-2 text-slate7">{{ pins.counted }}. At the worst phase, the peak.</p>
      <p v-if="fixed" class="text-slate7">Fixed wiring has no plug: these are its supply terminals after isolating.</p>
      <ul class="mt-2 flex flex-wrap gap-x-8 gap-y-2">
        <li v-for="pin in pins.voltages" :key="pin.after.value">
          <FigureValue :figure="pin.rated" />
          <span class="block text-small text-slate5">after {{ pin.after.number }} {{ pin.after.unit }}</span>
          <span class="block text-small text-slate5">plan {{ pin.planned.number }} {{ pin.planned.unit }}</span>
        </li>
      </ul>
      <LimitChecks :checks="pins.checks" />
      <p v-if="pins.no_rule" class="mt-2 font-semibold text-ochre-text">{{ pins.no_rule }}</p>
      <p v-if="pins.behind" class="mt-2 font-semibold">{{ pins.behind }}</p>
    </template>
  </section>
</template>
