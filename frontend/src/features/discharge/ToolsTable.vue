<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ToolRow from './ToolRow.vue'

/** Every resistor, and the fastest combination of each shape, with times; and those that may not, with the reason. */
const { tools } = defineProps<{ tools: Schemas['ToolOut'][] }>()
const emit = defineEmits<{ use: [tool: Schemas['ToolOut']] }>()
const allowed = computed(() => tools.filter((tool) => !tool.refusals.length))
const refused = computed(() => tools.filter((tool) => tool.refusals.length))
</script>

<template>
  <section>
    <div class="mt-6 overflow-x-auto">
      <table v-if="allowed.length" class="w-full min-w-[34rem] text-left">
        <caption class="pb-1 text-left text-small font-semibold text-slate7">
          Time through each resistor, and the fastest combination of each shape: as marked, and with C and R at the top
          of their tolerance
        </caption>
        <thead class="text-small text-slate5">
          <tr>
            <th class="py-1 font-normal">Resistor</th>
            <th v-for="time in allowed[0]?.times" :key="time.name" class="py-1 font-normal">
              {{ time.name }} {{ time.target.number }} {{ time.target.unit }}
            </th>
            <th class="py-1 font-normal">if it is still live</th>
          </tr>
        </thead>
        <tbody>
          <ToolRow v-for="tool in allowed" :key="tool.name" :tool @use="emit('use', tool)" />
        </tbody>
      </table>
    </div>
    <template v-if="refused.length">
      <h3 class="mt-6 text-small font-semibold text-slate7">Not these</h3>
      <ul>
        <li
          v-for="tool in refused"
          :key="tool.name"
          class="grid gap-x-4 border-t border-slate2 py-2 sm:grid-cols-[14rem_1fr]"
        >
          <span>{{ tool.name }}</span><span class="text-slate7">{{ tool.refusals.join(' ') }}</span>
        </li>
      </ul>
    </template>
  </section>
</template>
