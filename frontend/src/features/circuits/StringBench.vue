<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import { useBenchInAddress } from '@/app/address'
import type { Schemas } from '@/api/client'
import FigureValue from '@/ui/FigureValue.vue'
import TextField from '@/ui/TextField.vue'
import { useString } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'
import WorkedHere from '@/ui/WorkedHere.vue'
import WideBox from '@/ui/WideBox.vue'

/** Capacitors in series as typed: how they share the voltage, and what balances them. */
const { start = {} } = defineProps<{ start?: Partial<Schemas['StringShareIn']> }>()
const typed = reactive<Schemas['StringShareIn']>({
  capacitors: '1500 µF 1 mA\n1500 µF 0.4 mA',
  balance: '47 kΩ',
  voltage: '565 V',
  rating: '400 V',
  ...start,
})
useBenchInAddress(typed)
const { data: found, waits, at } = useString(toRef(() => ({ ...typed })))
const most = computed(() =>
  Math.max(
    1e-9,
    ...(found.value?.sections.flatMap((s) => [s.first.value, s.settled.value]) ?? []),
    found.value?.rated.value ?? 0,
  ),
)
const share = (volts: number) => `${((volts / most.value) * 96).toFixed(1)}%`
</script>

<template>
  <section aria-label="Series string">
    <form class="mt-2 grid grid-cols-2 items-start gap-3 sm:grid-cols-4" @submit.prevent>
      <TextField
        v-model="typed.capacitors"
        label="Each: capacitance, leakage"
        hint="a line for each"
        multiline
        mono
        :error="at('capacitors')"
      />
      <TextField v-model="typed.balance" label="Balancing resistor, each" mono :error="at('balance')" />
      <TextField v-model="typed.voltage" label="Across the string" mono :error="at('voltage')" />
      <TextField v-model="typed.rating" label="Each rated" mono :error="at('rating')" />
    </form>
    <WaitingShape class="mt-4" :when="waits" />
    <WorkedHere class="mt-4" :of="found" />
    <template v-if="found">
      <div class="mt-5 flex flex-wrap items-end gap-x-4">
        <FigureValue :figure="found.worst" size="number" />
        <p class="text-lead">is the most that stands across one.</p>
      </div>
      <p
        class="mt-3 border-l-4 px-3 py-2 text-lead"
        :class="found.sections.some((s) => s.over) ? 'border-danger bg-danger-w font-semibold' : 'border-tide'"
      >
        {{ found.says }}
      </p>
      <div class="grid grid-cols-1 gap-x-10 2xl:grid-cols-2">
        <figure class="mt-4 max-w-3xl">
          <figcaption class="text-small text-slate7">
            What stands across each in the end; the thin mark is at first, the line the {{ found.rated.number }}
            {{ found.rated.unit }} it is rated for
          </figcaption>
          <div data-drawn class="relative mt-2 space-y-1.5 pl-6">
            <div v-for="(section, index) in found.sections" :key="index" class="relative h-6 rounded-sm bg-slate1">
              <span class="absolute -left-6 font-mono text-small leading-6">{{ index + 1 }}</span>
              <span
                class="absolute inset-y-0 left-0 rounded-sm"
                :class="section.over ? 'bg-danger' : 'bg-tide'"
                :style="{ width: share(section.settled.value) }"
              />
              <span class="absolute -inset-y-0.5 w-0.5 bg-ink" :style="{ left: share(section.first.value) }" />
              <span
                class="absolute -inset-y-1 border-l-2 border-dashed border-ochre"
                :style="{ left: share(found.rated.value) }"
              />
            </div>
          </div>
        </figure>
        <WideBox label="Shares">
          <table class="mt-4 w-full max-w-3xl text-left">
            <thead class="text-small text-slate7">
              <tr>
                <th class="py-1 pr-4 font-semibold">Capacitor</th>
                <th class="py-1 pr-4 font-semibold">At first</th>
                <th class="py-1 pr-4 font-semibold">In the end</th>
                <th class="py-1 font-semibold">Lost in its resistor</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(section, index) in found.sections" :key="index" class="border-t border-slate2">
                <th class="py-1.5 pr-4 font-mono font-normal">{{ index + 1 }}</th>
                <td class="py-1.5 pr-4"><FigureValue :figure="section.first" /></td>
                <td class="py-1.5 pr-4">
                  <FigureValue :figure="section.settled" /><strong v-if="section.over" class="text-danger">
                    over</strong
                  >
                </td>
                <td class="py-1.5"><FigureValue :figure="section.loss" /></td>
              </tr>
            </tbody>
          </table>
        </WideBox>
      </div>
      <p class="mt-3">
        Through its own resistor each is at 5 V after
        <span class="font-mono">{{ found.discharge.number }} {{ found.discharge.unit }}</span
        >.<template v-if="found.most">
          Balancing resistors of at most
          <span class="font-mono">{{ found.most.number }} {{ found.most.unit }}</span
          >: {{ found.source }}.</template
        >
      </p>
    </template>
  </section>
</template>
