<script setup lang="ts">
import type { Schemas } from '@/api/client'
import StrikeLine from '@/features/record/StrikeLine.vue'
import WideBox from '@/ui/WideBox.vue'

/** What was measured, newest first, with what each may stand for. */
defineProps<{ readings: Schemas['ReadingOut'][]; parts: string[] }>()
const time = (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <WideBox v-if="readings.length" label="Readings">
    <table class="mt-6 w-full text-left">
      <caption class="pb-1 text-left text-small font-semibold text-slate7">
        Readings
      </caption>
      <tbody>
        <tr
          v-for="reading in [...readings].reverse()"
          :key="reading.sequence"
          class="border-t border-slate2 align-baseline"
          :class="reading.struck ? 'text-slate5 line-through' : ''"
        >
          <td class="py-2 pr-4">
            {{ reading.what }}<template v-if="parts[reading.section]">, {{ parts[reading.section] }}</template>
          </td>
          <td class="py-2 pr-4 font-mono whitespace-nowrap">{{ reading.value.number }} {{ reading.value.unit }}</td>
          <td class="py-2 pr-4 text-slate5">
            {{ reading.interval
            }}<span v-if="reading.typed.includes(' ')" class="block text-small">typed {{ reading.typed }}</span>
          </td>
          <td class="py-2 pr-4">
            {{ reading.how }}, {{ reading.meter_name
            }}<template v-if="reading.at_volts">, at {{ reading.at_volts }}</template
            ><template v-if="reading.temperature">, {{ reading.temperature }}</template
            >{{ ''
            }}<span v-if="reading.overdue" class="block text-small font-semibold text-ochre-text"
              >calibration overdue</span
            >
          </td>
          <td class="py-2 text-small text-slate5">
            {{ reading.by_name }}, {{ time(reading.at) }}
            <span v-if="reading.struck" class="block font-semibold">struck</span>
            <StrikeLine v-else class="-ml-2" :sequence="reading.sequence" :what="`${reading.what} ${reading.typed}`" />
          </td>
        </tr>
      </tbody>
    </table>
  </WideBox>
</template>
