<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import EntryBody from '@/features/record/EntryBody.vue'
import { useRecord } from '@/features/record/queries'
import ProblemNote from '@/ui/ProblemNote.vue'
import PowerLog from './PowerLog.vue'
import PowerPlan from './PowerPlan.vue'
import StepEntry from './StepEntry.vue'
import { usePowerUp } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** The first power: what to do before, the limiter, the next step with what to expect, and what was read. */
const { sheet } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: found, error } = usePowerUp(sheet.job.id)
const { data: entries } = useRecord(sheet.job.id)
const formed = computed(() => (entries.value ?? []).filter((entry) => entry.kind === 're-forming'))
</script>

<template>
  <section class="p-5" aria-label="Power up">
    <ProblemNote v-if="error" :sentence="error.message" />
    <WaitingShape :when="!found && !error" />
    <div v-if="found" class="grid gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <div>
        <p
          v-if="found.log.length"
          class="border-l-[6px] px-4 py-2 text-lead font-semibold"
          :class="found.stop ? 'border-danger bg-danger-w' : 'border-tide bg-tide-w'"
          :role="found.stop ? 'alert' : 'status'"
        >
          {{ found.trend }}
        </p>
        <template v-if="found.next">
          <h2 class="mt-3 text-small font-semibold text-slate7">Next step</h2>
          <p class="flex flex-wrap items-baseline gap-x-6">
            <strong class="font-mono text-number font-medium"
              >{{ found.next.percent }}<span class="text-value font-light text-slate5"> %</span></strong
            >
            <span v-if="found.next.rail" class="text-value"
              ><span class="font-mono font-medium">{{ found.next.rail.number }}</span>
              <span class="font-light text-slate5">&nbsp;{{ found.next.rail.unit }} on the rail</span></span
            >
            <span v-if="found.next.current" class="text-value"
              ><span class="font-mono font-medium">{{ found.next.current.number }}</span>
              <span class="font-light text-slate5">&nbsp;{{ found.next.current.unit }}</span></span
            >
          </p>
          <p class="text-slate7">
            <template v-if="found.next.stop"
              >Off above {{ found.next.stop.number }} {{ found.next.stop.unit }},
            </template>
            <template v-else>Off </template>at smoke, smell, hum, or a current that does not settle in
            {{ found.next.dwell.number }} {{ found.next.dwell.unit }}.
          </p>
        </template>
        <StepEntry :key="`${found.log.length} ${found.next?.percent}`" :found />
        <PowerLog v-if="found.log.length" :log="found.log" :steps="found.steps" />
      </div>
      <div>
        <p class="border-l-[3px] border-ochre bg-ochre-w px-3 py-2">{{ found.says }}</p>
        <div v-if="found.lamp" class="mt-3" aria-label="Lamp in series">
          <span class="text-small font-semibold text-slate7">Lamp in series</span>
          <strong class="block font-mono text-number font-medium"
            >{{ found.lamp.watts.number
            }}<span class="text-value font-light text-slate5">&nbsp;{{ found.lamp.watts.unit }}</span></strong
          >
          <p>{{ found.lamp.healthy }}</p>
          <p class="font-semibold">{{ found.lamp.shorted }}</p>
        </div>
        <p v-else-if="found.no_lamp" class="mt-3">{{ found.no_lamp }}</p>
        <h2 class="mt-4 text-small font-semibold text-slate7">Before</h2>
        <ul>
          <li v-for="line in [...found.before, found.case]" :key="line" class="border-t border-slate2 py-1.5">
            {{ line }}
          </li>
        </ul>
        <div v-if="formed.length" aria-label="Re-forming">
          <h2 class="mt-4 text-small font-semibold text-slate7">Re-formed before</h2>
          <ul>
            <li v-for="entry in formed" :key="entry.sequence" class="border-t border-slate2 py-1.5">
              <EntryBody :body="entry.body" />
            </li>
          </ul>
        </div>
        <PowerPlan :key="found.plan.version" :found />
      </div>
    </div>
  </section>
</template>
