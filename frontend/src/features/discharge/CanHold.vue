<script setup lang="ts">
import type { Schemas } from '@/api/client'
import EnergyMark from '@/ui/EnergyMark.vue'
import FigureValue from '@/ui/FigureValue.vue'

/** What a position can hold: the number, the voltage and its basis, and what it does to a person. */
defineProps<{ plan: Schemas['PlanOut']; charge: Schemas['ChargeOut']; position: Schemas['PositionOut'] }>()
const emit = defineEmits<{ circuit: [] }>()
</script>

<template>
  <section>
    <div class="flex flex-wrap items-baseline justify-between gap-x-4">
      <h2 class="text-small font-semibold text-slate7">
        {{ position.name }} can hold<template v-if="position.parts">, {{ position.parts }}</template>
      </h2>
      <button class="min-h-11 text-small underline decoration-slate3 underline-offset-4" @click="emit('circuit')">
        Change the circuit <kbd class="font-mono max-sm:hidden" aria-hidden="true">c</kbd>
      </button>
    </div>
    <div class="flex flex-wrap items-end gap-x-10 gap-y-3">
      <FigureValue :figure="charge.energy" size="number" />
      <p>
        <FigureValue :figure="charge.voltage" />
        <span class="block text-small text-slate5">{{ charge.rests_on }}</span>
      </p>
      <p class="text-lead font-semibold" :class="charge.grave ? 'text-danger' : ''">{{ charge.band_sentence }}</p>
    </div>
    <EnergyMark class="mt-3" :mark="charge.mark" wide />
    <p v-if="plan.beyond" class="mt-2 border-l-[3px] border-danger bg-danger-w px-3 py-2 font-semibold">
      {{ plan.beyond }}
    </p>
    <p v-if="charge.planned_as" class="mt-2 font-semibold text-ochre-text">
      The marking has two readings: planned with the one that holds most, {{ charge.planned_as }}.
    </p>
    <p v-if="plan.bleeder?.warning" class="mt-2 font-semibold text-danger">{{ plan.bleeder.warning }}</p>
    <p v-if="plan.planned_with" class="mt-2 text-slate7">{{ plan.planned_with }}</p>
    <div v-if="plan.string" class="mt-4 border-l-[3px] border-danger bg-danger-w p-4">
      <p class="font-semibold">{{ plan.string.sentence }}</p>
      <p class="mt-2 flex flex-wrap gap-x-8 gap-y-2">
        <span
          ><FigureValue :figure="plan.string.residue" />
          <span class="block text-small text-slate7">may stay on one after a short end to end</span></span
        >
        <span
          ><FigureValue :figure="plan.string.residue_energy" />
          <span class="block text-small text-slate7">still in it</span></span
        >
        <span
          ><FigureValue :figure="plan.string.worst" />
          <span class="block text-small text-slate7">planned on each part</span></span
        >
      </p>
    </div>
    <div v-if="plan.points.length > 1" class="mt-3">
      <h3 class="text-small font-semibold text-slate7">One after the other</h3>
      <ol class="mt-1 flex flex-wrap gap-x-6">
        <li v-for="(point, index) in plan.points" :key="point">
          <span class="font-mono text-slate5">{{ index + 1 }}</span> {{ point }}
        </li>
      </ol>
    </div>
  </section>
</template>
