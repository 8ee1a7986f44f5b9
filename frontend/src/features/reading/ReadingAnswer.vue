<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import FigureSum from '@/ui/FigureSum.vue'
import FigureValue from '@/ui/FigureValue.vue'

/** The four answers beside the box: value, energy, time to empty, classes that may take its place. */
const { read } = defineProps<{ read: Schemas['ReadOut'] }>()
const working = computed(() => read.tool?.times[0])
</script>

<template>
  <dl class="flex flex-wrap items-start gap-x-8 gap-y-3">
    <div>
      <dt class="sr-only">Capacitance</dt>
      <dd>
        <FigureSum :figures="read.marking.capacitance" />
        <span v-if="read.marking.provisional" class="block text-small font-semibold text-ochre-text">not settled</span>
        <span v-else class="block text-small text-slate5">{{ read.marking.spread || 'no tolerance printed' }}</span>
      </dd>
    </div>
    <div v-if="read.charge">
      <dt class="sr-only">Stored energy</dt>
      <dd>
        <FigureValue :figure="read.charge.energy" />
        <span class="block text-small text-slate5"
          >at {{ read.charge.voltage.number }} {{ read.charge.voltage.unit
          }}<template v-if="read.charge.planned_as">, as {{ read.charge.planned_as }}</template></span
        >
        <span class="block text-small" :class="read.charge.grave ? 'font-semibold text-danger' : 'text-slate5'">{{
          read.charge.band_sentence
        }}</span>
      </dd>
    </div>
    <div v-if="read.tool && working">
      <dt class="sr-only">Time to empty</dt>
      <dd>
        <FigureValue :figure="working.nominal" />
        <span class="block text-small text-slate5"
          >to {{ working.target.number }} {{ working.target.unit }} through {{ read.tool.resistance.number }}
          {{ read.tool.resistance.unit }}</span
        >
        <span class="block text-small text-slate5">worst {{ working.worst.number }} {{ working.worst.unit }}</span>
      </dd>
    </div>
    <div v-if="read.may_take_its_place.length">
      <dt class="sr-only">Classes that may take its place</dt>
      <dd>
        <span class="font-mono text-lead leading-8 font-medium">{{ read.may_take_its_place.join(' ') }}</span>
        <span class="block text-small text-slate5">may take its place</span>
      </dd>
    </div>
  </dl>
</template>
