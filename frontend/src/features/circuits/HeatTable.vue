<script setup lang="ts">
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'

/** What a larger capacitance does to zener, series resistor and current. */
const { rows, says } = defineProps<{ rows: Schemas['HeatOut'][]; says: string }>()
</script>

<template>
  <div class="mt-5">
    <p v-if="says" class="border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">{{ says }}</p>
    <table class="mt-3 w-full max-w-3xl text-left">
      <caption class="pb-1 text-left text-small font-semibold text-slate7">
        Too big is a fault too: lightest load, highest mains
      </caption>
      <thead class="text-small text-slate7">
        <tr>
          <th class="py-1 pr-2 sm:pr-4 font-semibold">Capacitance</th>
          <th class="py-1 pr-2 sm:pr-4 font-semibold">Zener</th>
          <th class="py-1 pr-2 sm:pr-4 font-semibold">Series resistor</th>
          <th class="py-1 font-semibold">Mains current</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.says" class="border-t border-slate2">
          <th class="py-1.5 pr-2 sm:pr-4 font-normal">
            <span class="font-mono">{{ row.capacitance.number }} {{ row.capacitance.unit }}</span>
            <span class="ml-2 text-slate5">{{ row.says }}</span>
          </th>
          <td class="py-1.5 pr-2 sm:pr-4">
            <FigureValue :figure="row.zener" size="line" /><strong v-if="row.zener_over" class="text-danger">
              over</strong
            >
          </td>
          <td class="py-1.5 pr-2 sm:pr-4">
            <FigureValue :figure="row.series" size="line" /><strong v-if="row.series_over" class="text-danger">
              over</strong
            >
          </td>
          <td class="py-1.5"><FigureValue :figure="row.current" size="line" /></td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
