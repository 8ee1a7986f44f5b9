<script setup lang="ts">
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'

defineProps<{ tool: Schemas['ToolOut'] }>()
const emit = defineEmits<{ use: [] }>()
</script>

<template>
  <tr class="border-t border-slate2">
    <th class="py-1 pr-3 font-normal">
      <button class="min-h-11 max-w-72 text-left underline decoration-slate3 underline-offset-4" @click="emit('use')">
        {{ tool.name }}
      </button>
      <template v-if="tool.shares.length > 1">
        <span v-for="share in tool.shares" :key="share.name" class="block text-small text-slate5"
          >{{ share.name }} {{ share.voltage.number }} {{ share.voltage.unit }}, {{ share.energy.number }}
          {{ share.energy.unit }}</span
        >
      </template>
    </th>
    <td v-for="time in tool.times" :key="time.name" class="py-1 pr-3 whitespace-nowrap">
      <FigureValue :figure="time.nominal" size="line" />
      <span class="block text-small text-slate5">worst {{ time.worst.number }} {{ time.worst.unit }}</span>
    </td>
    <td class="py-1 whitespace-nowrap">
      <FigureValue :figure="tool.live_power" size="line" />
      <span class="block text-small text-slate5">{{
        tool.live_time ? `stands it for ${tool.live_time.number} ${tool.live_time.unit}` : 'stands it'
      }}</span>
    </td>
  </tr>
</template>
