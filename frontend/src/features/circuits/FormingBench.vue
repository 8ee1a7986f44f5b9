<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import { useBenchInAddress } from '@/app/address'
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'
import LinePlot from '@/ui/LinePlot.vue'
import TextField from '@/ui/TextField.vue'
import FormingLog from './FormingLog.vue'
import { useForming } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'
import WorkedHere from '@/ui/WorkedHere.vue'
import WideBox from '@/ui/WideBox.vue'

/** Re-forming an electrolytic as typed: its steps, and what the log of a step says. */
const { start = {}, positionId } = defineProps<{ start?: Partial<Schemas['FormingIn']>; positionId?: string }>()
const typed = reactive<Schemas['FormingIn']>({
  capacitance: '32 µF',
  rating: '500 V',
  resistor: '',
  source: '',
  log: '',
  warm: false,
  ...start,
})
useBenchInAddress(typed)
const { data: found, waits, at } = useForming(toRef(() => ({ ...typed })))
const LOUD: Record<string, string> = {
  stop: 'border-danger bg-danger-w font-semibold',
  next: 'border-tide font-semibold',
  wait: 'border-ochre',
  too_few: 'border-slate3',
}
/** The plan as stairs: where each step begins, and the source during it. */
const stairs = computed(() => {
  const minutes = [0]
  for (const step of found.value?.steps ?? []) minutes.push((minutes.at(-1) ?? 0) + step.time.value / 60)
  const volts = (found.value?.steps ?? []).map((step) => step.source.value)
  return [minutes, [...volts, volts.at(-1) ?? 0]] as [number[], number[]]
})
const read = computed(() => {
  const log = found.value?.log
  return [log?.seconds.map((seconds) => seconds / 60) ?? [], log?.values ?? []] as [number[], number[]]
})
const levels = computed(() =>
  found.value
    ? [
        { name: `source ${found.value.source.number} ${found.value.source.unit}`, value: found.value.source.value },
        { name: `next from ${found.value.stands.number} ${found.value.stands.unit}`, value: found.value.stands.value },
      ]
    : [],
)
</script>

<template>
  <section aria-label="Re-forming">
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <TextField v-model="typed.capacitance" label="Marked" mono :error="at('capacitance')" />
      <TextField v-model="typed.rating" label="Rated" mono :error="at('rating')" />
      <TextField
        v-model="typed.resistor"
        label="Series resistor"
        :hint="found ? `${found.resistor.number} ${found.resistor.unit} where it is empty` : undefined"
        mono
        :error="at('resistor')"
      />
    </form>
    <WaitingShape class="mt-4" :when="waits" />
    <WorkedHere class="mt-4" :of="found" />
    <template v-if="found">
      <p class="mt-4 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">{{ found.caution }}</p>
      <div class="mt-4 flex flex-wrap items-end gap-x-4">
        <FigureValue :figure="found.total" size="number" />
        <p class="text-lead">
          in five steps, if it forms; a shorted one heats the resistor with {{ found.short.number }}
          {{ found.short.unit }}.
        </p>
      </div>
      <div class="grid grid-cols-1 gap-x-10 2xl:grid-cols-2">
        <figure class="mt-4 max-w-3xl">
          <figcaption class="text-small text-slate7">
            The plan: what the source is set to, and how long at least
          </figcaption>
          <LinePlot
            :data="stairs"
            :lines="[{ colour: 'ochre', stairs: true }]"
            :says="`Five steps up to ${typed.rating}, ${found.total.number} ${found.total.unit} in all.`"
            x-label="minutes"
            y-label="source, volts"
          />
        </figure>
        <WideBox label="Steps">
          <table class="mt-4 w-full max-w-3xl text-left">
            <thead class="text-small text-slate7">
              <tr>
                <th class="py-1 pr-4 font-semibold">Source</th>
                <th class="py-1 pr-4 font-semibold">Next when it leaks less than</th>
                <th class="py-1 pr-4 font-semibold">Then across the resistor</th>
                <th class="py-1 font-semibold">About</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="step in found.steps" :key="step.source.value" class="border-t border-slate2">
                <td class="py-1.5 pr-4"><FigureValue :figure="step.source" /></td>
                <td class="py-1.5 pr-4"><FigureValue :figure="step.leakage" /></td>
                <td class="py-1.5 pr-4"><FigureValue :figure="step.across" /></td>
                <td class="py-1.5"><FigureValue :figure="step.time" /></td>
              </tr>
            </tbody>
          </table>
        </WideBox>
      </div>
    </template>
    <h2 class="mt-6 font-semibold">The log of a step</h2>
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <TextField
        v-model="typed.source"
        label="Source now"
        :hint="found?.steps[0] ? `${found.steps[0].source.number} V where it is empty` : undefined"
        mono
        :error="at('source')"
      />
      <TextField
        v-model="typed.log"
        class="col-span-2"
        label="Time and volts across it"
        hint="a line for each: 5 min 90 V"
        multiline
        mono
        :error="at('log')"
      />
      <label class="flex min-h-11 items-center gap-2 sm:mt-6">
        <input v-model="typed.warm" type="checkbox" class="size-5" /> The can warms
      </label>
    </form>
    <p v-if="found" class="mt-3 border-l-4 px-3 py-2 text-lead" :class="LOUD[found.word]" role="status">
      {{ found.says }}
      <template v-if="found.leakage">
        It leaks <span class="font-mono">{{ found.leakage.number }} {{ found.leakage.unit }}</span
        >.
      </template>
    </p>
    <figure v-if="read[0].length > 1" class="mt-4 max-w-3xl">
      <figcaption class="text-small text-slate7">The step as it goes: volts across the capacitor</figcaption>
      <LinePlot
        :data="[read[0], read[1], read[1]]"
        :lines="[{ colour: 'ochre', dots: true }, { colour: 'ochre' }]"
        :says="`${read[0].length} readings, the last ${read[1].at(-1)} V.`"
        x-label="minutes"
        y-label="across it, volts"
        :levels
      />
    </figure>
    <FormingLog v-if="positionId" :position-id="positionId" :typed />
  </section>
</template>
