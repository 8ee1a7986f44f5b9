<script setup lang="ts">
import { JUST_READ_MIN, useKept } from '@/api/kept'
import { useNow } from '@vueuse/core'
import { reactive, computed, defineAsyncComponent, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import FigureValue from '@/ui/FigureValue.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import StrikeLine from '@/features/record/StrikeLine.vue'
import WorkedHere from '@/ui/WorkedHere.vue'
import { useFallHere } from './fallHere'
import { useFall, useLogFalls } from './queries'
import { meterOptions, useChosenMeter } from './meter'

/** Watching it fall: readings typed or pasted, the fitted curve, what it betrays, and the time still to go. */
const { positionId, meters } = defineProps<{
  positionId: string
  watching: boolean
  meters: Schemas['MeterAllowed'][]
}>()
const DecayPlot = defineAsyncComponent(() => import('./DecayPlot.vue'))
const { data: seen } = useFall(positionId)
const rows = ref('')
const { put, at, general } = useLogFalls(positionId, (body) => {
  rows.value = [body.rows, rows.value].filter(Boolean).join('\n')
})
useKept(`fall ${positionId}`, reactive({ rows }), JUST_READ_MIN)
const meter = useChosenMeter(() => meters)
const options = computed(() => meterOptions(meters))
const { fall, problem: notHere } = useFallHere(positionId, seen, () => meters)
const field = useTemplateRef('field')
useShortcuts({ f: () => field.value?.focus() })

function log(asTyped = false) {
  put({ rows: rows.value, meter_id: meter.value, as_typed: asTyped })
  rows.value = ''
}
const enter = (event: KeyboardEvent) => {
  if (event.shiftKey) return
  event.preventDefault()
  log()
}
const now = useNow({ interval: 1000 })
const last = computed(() => [...(fall.value?.samples ?? [])].sort((a, b) => a.sequence - b.sequence).at(-1))
const gone = computed(() =>
  fall.value?.counted_from ? Math.max((now.value.getTime() - Date.parse(fall.value.counted_from)) / 1000, 0) : 0,
)
const clock = (seconds: number) =>
  seconds < 60
    ? { number: String(Math.ceil(seconds)), unit: 's' }
    : { number: `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`, unit: 'min' }
const counting = (target: Schemas['ToGoOut']) => ({
  left: clock(Math.max(target.nominal.value - gone.value, 0)),
  worst: target.worst && clock(Math.max(target.worst.value - gone.value, 0)),
})
/** The time by which it is under a target at most: not known where a floor may hold it up. */
function atMost(target: Schemas['ToGoOut']) {
  const { worst } = counting(target)
  return worst ? `at most ${worst.number} ${worst.unit}` : 'at most: not known, a floor may hold it up'
}
</script>

<template>
  <section v-if="fall" aria-label="Watching it fall" class="mt-6 border-t border-slate2 pt-4">
    <h3 class="text-small font-semibold text-slate7">Watching it fall</h3>
    <WorkedHere class="mt-2" :of="fall" />
    <ProblemNote class="mt-2" :sentence="notHere" />
    <div v-if="fall.samples.length" aria-live="polite">
      <p
        class="mt-2 text-lead font-semibold"
        :class="fall.danger ? 'border-l-4 border-danger bg-danger-w px-3 py-2 text-danger' : ''"
      >
        {{ fall.sentence }}
      </p>
      <div v-if="fall.tau" class="mt-2 flex flex-wrap items-start gap-x-8 gap-y-3">
        <p v-for="target in watching ? fall.to_go : []" :key="target.name">
          <template v-if="target.nominal.value > gone">
            <FigureValue :figure="counting(target).left" />
            <span class="text-slate5"> to {{ target.target.number }} {{ target.target.unit }}</span>
          </template>
          <span v-else class="text-lead font-semibold"
            >under {{ target.target.number }} {{ target.target.unit }} by the fit</span
          >
          <span class="block text-small text-slate5">{{ target.name }}, {{ atMost(target) }}</span>
        </p>
        <p>
          <FigureValue :figure="fall.tau" />
          <span class="block text-small text-slate5">τ, {{ fall.tau_range }}</span>
        </p>
        <p class="text-small text-slate7">
          <span v-for="said in fall.implied" :key="said" class="block">{{ said }}</span>
          <span class="block text-slate5">with {{ fall.meter_name }}, its load counted</span>
        </p>
      </div>
      <DecayPlot class="mt-3" :fall />
      <p v-if="last" class="flex flex-wrap items-center gap-x-3 text-small text-slate7">
        Logged last: {{ last.seconds }} s, {{ last.volts }} V
        <span v-if="!last.sequence">not sent yet</span>
        <StrikeLine v-else :key="last.sequence" :sequence="last.sequence" what="what was logged last" />
      </p>
    </div>
    <form v-if="watching" class="mt-3" @submit.prevent="log()">
      <div class="grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_14rem_auto]">
        <TextField
          ref="field"
          v-model="rows"
          label="Time and volts, such as 5, 212"
          mono
          multiline
          hint="Seconds, or 0:05. One a line; paste a whole CSV. Enter logs, Shift Enter a new line."
          :error="at('rows')"
          @keydown.enter="enter"
        />
        <SelectField v-model="meter" label="Meter" :options :error="at('meter_id')" />
        <ActionButton class="sm:mt-6" type="submit" hint="f">Log it</ActionButton>
      </div>
      <p
        v-if="at('as_typed')"
        role="alert"
        class="mt-3 flex flex-wrap items-center gap-3 font-semibold text-ochre-text"
      >
        {{ at('as_typed') }}
        <ActionButton @click="log(true)">It is right as typed</ActionButton>
      </p>
      <ProblemNote class="mt-3" :sentence="general" />
    </form>
  </section>
</template>
