<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'
import SelectField from '@/ui/SelectField.vue'
import LimitChecks from './LimitChecks.vue'
import { useDesign } from './queries'

/** What is fitted to empty it, in every state; the limits it has to meet; and one made for a limit. */
const { positionId, bleeder, limits, sizes } = defineProps<{
  positionId: string
  bleeder: Schemas['BleederOut']
  limits: string[]
  sizes: Schemas['ResistorSize'][]
}>()
const limit = ref(limits[0] ?? '')
const working = ref(String(sizes[1]?.working_v ?? 350))
const { data: made, error } = useDesign(positionId, limit, () => Number(working.value))
const sizeOptions = computed(() =>
  sizes.map((size) => ({ id: String(size.working_v), title: `${size.title}, ${size.working_v} V` })),
)
</script>

<template>
  <section>
    <p class="mt-2 font-semibold">A bleeder is never trusted: prove it, whatever is fitted.</p>
    <div class="overflow-x-auto" role="region" aria-label="Times through the bleeder" tabindex="0">
      <table class="mt-2 w-full min-w-[30rem] text-left">
        <thead class="text-small text-slate5">
          <tr>
            <th class="py-1 font-normal">Bleeder</th>
            <th v-for="time in bleeder.states[0]?.times" :key="time.name" class="py-1 font-normal">
              {{ time.name }} {{ time.target.number }} {{ time.target.unit }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in bleeder.states" :key="row.state" class="border-t border-slate2">
            <th class="py-1 pr-3 font-normal">
              {{ row.state }}
              <span v-if="row.resistance" class="font-mono">{{ row.resistance.number }} {{ row.resistance.unit }}</span>
            </th>
            <td v-for="time in row.times" :key="time.name" class="py-1 pr-3 whitespace-nowrap">
              <FigureValue :figure="time.nominal" size="line" />
              <span class="block text-small text-slate5">worst {{ time.worst.number }} {{ time.worst.unit }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="bleeder.split" class="mt-2 text-slate7">{{ bleeder.split }}</p>
    <template v-if="bleeder.checks.length">
      <h4 class="mt-4 text-small font-semibold text-slate7">Against the limits, bleeder {{ bleeder.counted }}</h4>
      <LimitChecks :checks="bleeder.checks" />
    </template>
    <template v-if="limits.length">
      <h4 class="mt-4 text-small font-semibold text-slate7">One that would meet a limit</h4>
      <div class="mt-1 grid gap-3 sm:grid-cols-2">
        <SelectField v-model="limit" label="Limit" :options="limits.map((id) => ({ id, title: id }))" />
        <SelectField v-model="working" label="Resistor size" :options="sizeOptions" />
      </div>
      <p v-if="made" class="mt-2">
        <FigureValue :figure="made.total" /> <span class="text-slate5">it loses </span
        ><FigureValue :figure="made.loss" size="line" />
        <span class="block">{{ made.sentence }}</span>
        <span class="block text-small text-slate5">{{ made.source }}</span>
      </p>
      <p v-else-if="error" class="mt-2 font-semibold">{{ error.message }}</p>
    </template>
  </section>
</template>
