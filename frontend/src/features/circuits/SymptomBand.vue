<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** Capacitance from nothing to more than enough, and what is seen in each stretch, for low, nominal and high mains. */
const { rows, mark, marked, reading } = defineProps<{
  rows: Schemas['MainsOut'][]
  mark: Schemas['MarkOut']
  marked?: Schemas['MarkOut'] | null
  reading?: Schemas['MarkOut'] | null
}>()
const FILLS: Record<string, string> = {
  dead: 'fill-slate3',
  dim: 'fill-slate2',
  'never pulls in': 'fill-slate1',
  chatters: 'fill-ochre opacity-40',
  holds: 'fill-tide-w',
  'holds, the rail sags': 'fill-tide-w opacity-50',
}
const ROW = 46
const per = (share: number) => `${(share * 100).toFixed(2)}%`
const fill = (zone: Schemas['SymptomOut']) => FILLS[zone.says] ?? 'fill-ochre-w'
const said = (row: Schemas['MainsOut']) =>
  row.zones.map((zone) => `${zone.says}${zone.edge ? ` up to ${zone.edge.number} ${zone.edge.unit}` : ''}`).join(', ')
</script>

<template>
  <figure>
    <div class="grid grid-cols-[4.500rem_minmax(0,1fr)] items-center">
      <template v-for="row in rows" :key="row.supply.value">
        <span class="font-mono font-medium"
          >{{ row.supply.number }} <span class="font-light text-slate5">{{ row.supply.unit }}</span></span
        >
        <svg
          role="img"
          class="h-[46px] w-full overflow-visible"
          :aria-label="`At ${row.supply.number} volts: ${said(row)}.`"
          font-size="13"
        >
          <template v-for="zone in row.zones" :key="zone.says">
            <rect
              :x="per(zone.start)"
              y="4"
              :width="per(zone.width)"
              :height="ROW - 8"
              class="zone"
              :class="fill(zone)"
            />
            <text
              v-if="zone.width > 0.11"
              :x="per(zone.start)"
              dx="10"
              :y="ROW / 2 + 4"
              class="fill-slate7 font-semibold"
              :class="zone.width * 40 > zone.says.length ? '' : 'max-sm:hidden'"
            >
              {{ zone.says }}
            </text>
          </template>
          <rect
            v-if="reading"
            :x="per(reading.low)"
            y="0"
            :width="per(reading.high - reading.low)"
            :height="ROW"
            class="fill-tide opacity-50"
          />
          <line
            v-if="marked"
            :x1="per(marked.at)"
            :x2="per(marked.at)"
            y1="0"
            :y2="ROW"
            class="stroke-ink"
            stroke-width="1.5"
            stroke-dasharray="4 3"
          />
          <line :x1="per(mark.at)" :x2="per(mark.at)" y1="0" :y2="ROW" class="stroke-ink" stroke-width="3" />
        </svg>
      </template>
      <span />
      <svg class="h-6 w-full overflow-visible" aria-hidden="true" font-size="13">
        <text :x="per(mark.at)" y="16" text-anchor="middle" class="fill-ink font-mono font-medium">
          {{ mark.figure.number }} {{ mark.figure.unit }}
        </text>
      </svg>
    </div>
    <figcaption class="text-small text-slate5">
      What is seen as the capacitance falls, by mains voltage; the line is the capacitance above<template v-if="marked"
        >, dashed what is marked</template
      ><template v-if="reading">, teal what it reads with its error</template>.
    </figcaption>
    <p v-if="rows[0]" class="mt-2 text-small">
      At {{ rows[0].supply.number }} {{ rows[0].supply.unit }}:
      <template v-for="(zone, index) in rows[0].zones" :key="zone.says"
        >{{ index ? '; ' : '' }}{{ zone.says
        }}<template v-if="zone.edge">
          below <span class="font-mono">{{ zone.edge.number }} {{ zone.edge.unit }}</span></template
        ></template
      >.
    </p>
    <table class="mt-3 w-full text-left">
      <caption class="pb-1 text-left text-small font-semibold text-slate7">
        Each load
      </caption>
      <thead class="text-small text-slate7">
        <tr>
          <th class="py-1 pr-4 font-semibold">Mains</th>
          <th v-for="state in rows[0]?.states" :key="state.name" class="py-1 pr-4 font-semibold">{{ state.name }}</th>
          <th class="py-1 font-semibold">Rail held from</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.supply.value" class="border-t border-slate2">
          <td class="py-1.5 pr-4 font-mono whitespace-nowrap">{{ row.supply.number }} {{ row.supply.unit }}</td>
          <td v-for="state in row.states" :key="state.name" class="py-1.5 pr-4">
            <span class="font-mono">{{ state.rail.number }} {{ state.rail.unit }}</span
            >{{ state.holds ? ', holds' : ', falls away' }}
          </td>
          <td class="py-1.5 font-mono">{{ row.zones.at(-2)?.edge?.number }} {{ row.zones.at(-2)?.edge?.unit }}</td>
        </tr>
      </tbody>
    </table>
  </figure>
</template>
