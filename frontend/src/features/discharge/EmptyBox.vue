<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import FigureValue from '@/ui/FigureValue.vue'

/** The tool to empty it with, and the other things that may be so. */
const { best } = defineProps<{
  best: Schemas['ToolOut'] | null
  state?: Schemas['ChargeState']
  pending: boolean
  points: string[]
  shorted: boolean
}>()
const emit = defineEmits<{
  empty: [tool: Schemas['ToolOut']]
  note: [body: Schemas['ChargeIn']]
}>()
const working = computed(() => best?.times[0])
const hands = computed(() => best?.times.at(-1))
const OTHER: Schemas['ChargeIn']['other_way'][] = ['fitted bleeder', 'lamp', 'load left on']
const other = ref(false)
</script>

<template>
  <section class="mt-5 border-l-[3px] bg-sheet p-4" :class="best ? 'border-ochre' : 'border-danger'">
    <template v-if="best">
      <div class="flex flex-wrap justify-between gap-x-6 gap-y-2">
        <h3 class="text-lead font-semibold">Empty it through {{ best.name }}</h3>
        <div class="flex gap-x-7">
          <p v-if="working" class="text-right">
            <FigureValue :figure="working.nominal" />
            <span class="text-slate5"> to {{ working.target.number }} {{ working.target.unit }}</span>
            <span class="block text-small text-slate5">worst {{ working.worst.number }} {{ working.worst.unit }}</span>
          </p>
          <p v-if="hands" class="text-right">
            <FigureValue :figure="hands.nominal" />
            <span class="text-slate5"> to {{ hands.target.number }} {{ hands.target.unit }}</span>
            <span class="block text-small text-slate5">worst {{ hands.worst.number }} {{ hands.worst.unit }}</span>
          </p>
        </div>
      </div>
      <p class="mt-1">
        {{ best.peak.number }} {{ best.peak.unit }} at first touch. Insulated probe, chassis clip first, one hand.
        <span v-for="share in best.shares" :key="share.name" :class="best.shares.length > 1 ? 'block' : ''">
          <template v-if="best.shares.length > 1"
            >{{ share.name }} bears {{ share.voltage.number }} {{ share.voltage.unit }} and takes</template
          ><template v-else>It takes</template> {{ share.energy.number }} {{ share.energy.unit
          }}<template v-if="share.pulse_limit">
            of the {{ share.pulse_limit.number }} {{ share.pulse_limit.unit }} it stands ({{
              share.pulse_source
            }})</template
          >.</span
        >
      </p>
      <p v-if="best.live_time" class="mt-1 text-slate7">
        If it is still live: {{ best.live_power.number }} {{ best.live_power.unit }}, which it stands for
        {{ best.live_time.number }} {{ best.live_time.unit }}.
      </p>
    </template>
    <p v-else class="text-lead font-semibold">No resistor of the workshop may empty this one. The reasons are below.</p>
    <div class="mt-3 flex flex-wrap gap-3">
      <ActionButton
        v-if="best"
        :primary="state === 'unknown' || state === 'energised'"
        hint="e"
        :disabled="pending"
        @click="emit('empty', best)"
        >{{ state === 'emptying' ? 'Empty it again' : 'Empty with this' }}</ActionButton
      >
      <ActionButton
        :primary="shorted && state !== 'kept_shorted'"
        :disabled="pending || state === 'kept_shorted'"
        @click="emit('note', { state: 'kept_shorted' } as Schemas['ChargeIn'])"
        >Kept shorted</ActionButton
      >
      <ActionButton
        :disabled="pending || state === 'energised'"
        @click="emit('note', { state: 'energised' } as Schemas['ChargeIn'])"
        >Energised</ActionButton
      >
      <ActionButton :aria-expanded="other" @click="other = !other">Emptied another way</ActionButton>
    </div>
    <div v-if="other" class="mt-3 flex flex-wrap gap-3">
      <ActionButton
        v-for="way in OTHER"
        :key="way"
        :disabled="pending"
        @click="emit('note', { state: 'emptying', other_way: way } as Schemas['ChargeIn'])"
        >by the {{ way }}</ActionButton
      >
    </div>
  </section>
</template>
