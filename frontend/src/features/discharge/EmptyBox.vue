<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import DeliberateButton from '@/ui/DeliberateButton.vue'
import FigureValue from '@/ui/FigureValue.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'

type Note = Partial<Schemas['ChargeIn']> & Pick<Schemas['ChargeIn'], 'state'>

/** The tool to empty it with, point after point, and the other things that may be so: each twice or held, for it is recorded. */
const { best, points, sequence } = defineProps<{
  best: Schemas['ToolOut'] | null
  state?: Schemas['ChargeState']
  points: string[]
  shorted: boolean
  sequence: number
  acError?: string
}>()
const emit = defineEmits<{ note: [body: Note] }>()
const working = computed(() => best?.times[0])
const hands = computed(() => best?.times.at(-1))
const OTHER = ['fitted bleeder', 'lamp', 'load left on'] as const
const other = ref(false)
const linking = ref(false)
const place = ref('')
const ac = ref('')
const point = ref('0')
const options = computed(() => points.map((title, index) => ({ id: String(index), title })))
const where = computed(() => (points.length > 1 ? { point: Number(point.value) } : {}))
watch(
  () => sequence,
  () => {
    const next = Number(point.value) + 1
    if (next < points.length) point.value = String(next)
    ac.value = ''
    linking.value = other.value = false
  },
)
const through = (tool: Schemas['ToolOut']) =>
  emit('note', {
    state: 'emptying',
    shape: tool.shape,
    resistor_ids: tool.resistor_ids,
    ac_before: ac.value,
    ...where.value,
  })
defineExpose({ through })
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
      <div class="mt-3 grid gap-3 sm:grid-cols-[14rem_minmax(0,1fr)]">
        <TextField v-model="ac" label="AC first, V: mains stops the tool" mono :error="acError" />
        <SelectField v-if="points.length > 1" v-model="point" label="Now across" :options />
      </div>
    </template>
    <p v-else class="text-lead font-semibold">No resistor of the workshop may empty this one. The reasons are below.</p>
    <div class="mt-3 flex flex-wrap gap-3">
      <DeliberateButton
        v-if="best"
        :primary="state === 'unknown' || state === 'energised'"
        hint="e"
        @act="through(best)"
        >{{ state === 'emptying' ? 'Empty it again' : 'Empty with this' }}</DeliberateButton
      >
      <DeliberateButton v-if="state === 'kept_shorted'" @act="emit('note', { state: 'link_off' })"
        >The link is off</DeliberateButton
      >
      <ActionButton v-else :primary="shorted" :aria-expanded="linking" @click="linking = !linking"
        >Kept shorted</ActionButton
      >
      <DeliberateButton
        v-if="state !== 'energised'"
        @act="emit('note', { state: 'energised', link_off: state === 'kept_shorted' })"
        >{{ state === 'kept_shorted' ? 'Link off, and energised' : 'Energised' }}</DeliberateButton
      >
      <ActionButton :aria-expanded="other" @click="other = !other">Emptied another way</ActionButton>
    </div>
    <form
      v-if="linking"
      class="mt-3 flex flex-wrap items-end gap-3"
      @submit.prevent="emit('note', { state: 'kept_shorted', place })"
    >
      <TextField v-model="place" class="min-w-64" label="Where the link is" hint="left empty: across its terminals" />
      <ActionButton class="mb-6" type="submit">The link is on</ActionButton>
    </form>
    <div v-if="other" class="mt-3 flex flex-wrap gap-3">
      <DeliberateButton
        v-for="way in OTHER"
        :key="way"
        @act="emit('note', { state: 'emptying', other_way: way, ...where })"
        >by the {{ way }}</DeliberateButton
      >
    </div>
  </section>
</template>
