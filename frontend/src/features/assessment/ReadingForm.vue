<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useWords } from '@/api/words'
import { useShortcuts } from '@/app/shortcuts'
import { useMeters } from '@/features/instruments/queries'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useEnterReading } from './queries'

/** One reading as typed from the meter; Enter judges at once. The meter used last is kept. */
const { positionId, sections } = defineProps<{ positionId: string; sections: number; ask: string; primary: boolean }>()
const emit = defineEmits<{ judged: [] }>()
const { data: meters } = useMeters()
const { write, pending, at, general } = useEnterReading(positionId)
const value = ref('')
const meter = ref(localStorage.getItem('meter') ?? '')
const condition = ref<Schemas['Condition']>('lifted')
const section = ref('0')
const quantity = ref<Schemas['Quantity']>('capacitance')
const frequency = ref('')
const examples: Record<Schemas['Quantity'], string> = {
  capacitance: '12.9u',
  esr: '0.35 Ω',
  insulation: '>60M',
  leakage: '220u',
}
const field = useTemplateRef('field')
useShortcuts({ r: () => field.value?.focus() })
watch(
  meters,
  (known) => {
    if (known?.length && !known.some((m) => m.id === meter.value)) meter.value = known[0]?.id ?? ''
  },
  { immediate: true },
)
const meterOptions = computed(() =>
  (meters.value ?? []).map((m) => ({ id: m.id, title: `${m.name}, ±(${m.percent} % + ${m.counts})` })),
)
const { data: offered } = useWords()
const sectionOptions = computed(() =>
  Array.from({ length: sections }, (_, index) => ({ id: String(index), title: `section ${index + 1}` })),
)

async function enter() {
  localStorage.setItem('meter', meter.value)
  const done = await write({
    value: value.value,
    meter_id: meter.value,
    condition: condition.value,
    section: Number(section.value),
    quantity: quantity.value,
    frequency: quantity.value === 'esr' ? frequency.value : '',
  })
  if (!done) return
  value.value = ''
  emit('judged')
}
</script>

<template>
  <form @submit.prevent="enter">
    <p v-if="ask" class="mb-3 border-l-[3px] border-ochre bg-sheet px-3 py-2 font-semibold">{{ ask }}</p>
    <div class="grid items-start gap-3 sm:grid-cols-[10rem_minmax(0,1fr)_11rem_auto]">
      <TextField
        ref="field"
        v-model="value"
        :label="`Reading, such as ${examples[quantity]}`"
        mono
        :error="at('value')"
      />
      <SelectField v-model="meter" label="Meter" :options="meterOptions" :error="at('meter_id')" />
      <SelectField v-model="condition" label="Measured" :options="offered?.conditions ?? []" />
      <ActionButton class="sm:mt-6" :primary type="submit" hint="r" :disabled="pending">Judge it</ActionButton>
      <SelectField v-model="quantity" label="What is measured" :options="offered?.quantities ?? []" />
      <TextField
        v-if="quantity === 'esr'"
        v-model="frequency"
        label="At, such as 120 Hz"
        mono
        :error="at('frequency')"
      />
      <SelectField
        v-if="sections > 1"
        v-model="section"
        label="Section"
        :options="sectionOptions"
        :error="at('section')"
      />
    </div>
    <ProblemNote class="mt-3" :sentence="general" />
    <p v-if="!meterOptions.length" class="mt-2 text-small">
      No meter yet: add one under <RouterLink class="underline" to="/meters">Meters</RouterLink>, with its accuracy.
    </p>
  </form>
</template>
