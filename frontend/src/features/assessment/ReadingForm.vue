<script setup lang="ts">
import { computed, nextTick, reactive, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useKept } from '@/api/kept'
import { useVocabulary } from '@/api/vocabulary'
import { useShortcuts } from '@/app/shortcuts'
import { useMeters } from '@/features/instruments/queries'
import { useLastMeter } from '@/features/instruments/lastMeter'
import type { Entered } from '@/api/lines'
import { saysElsewhere } from '@/api/write'
import EnteredLines from '@/ui/EnteredLines.vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { sent } from '@/ui/fields'
import { useEnterReadings } from './queries'

/** One reading as typed from the meter; Enter judges at once. The meter used last is kept. */
const { positionId, parts, role, next, optional } = defineProps<{
  positionId: string
  parts: string[]
  role: Schemas['Role']
  next?: Schemas['AskOut']
  told: boolean
  primary: boolean
  /** What is asked for is only what a part to be kept still lacks: nothing is set to it until somebody says so. */
  optional: boolean
}>()
const emit = defineEmits<{ judged: [] }>()
const { data: meters } = useMeters()
const { data: offered } = useVocabulary()
const { meter, options: meterOptions } = useLastMeter(meters)
const example = computed(() => offered.value?.quantities.find((known) => known.id === quantity.value)?.example ?? '')
/** What belongs to a reading besides its value, each asked for only where it matters. */
const EMPTY = {
  frequency: '',
  volts: '',
  after: '',
  temperature_c: '',
  parallel_ohm: '',
  parallel_f: '',
  loss: '',
  voltage: '',
  rail: '',
  beside: '',
}
const FIELDS = ['value', 'meter_id', 'section', 'quantity', 'condition']
const entry = reactive({ reading: '', ...EMPTY })
const { forget } = useKept(`reading ${positionId}`, entry)
const condition = ref<Schemas['Condition']>('lifted')
const section = ref('0')
const quantity = ref<Schemas['Quantity']>('capacitance')
const inService = computed(() => quantity.value === 'current')
const within = <One,>(one: One, some: One[]) => some.length === 0 || some.includes(one)
const extras = computed(() =>
  (offered.value?.extras ?? []).filter(
    (extra) =>
      within(quantity.value, extra.quantities) &&
      within(condition.value, extra.conditions) &&
      within(role, extra.roles) &&
      !extra.not_roles.includes(role),
  ),
)
const conditions = computed(() =>
  (offered.value?.conditions ?? []).filter((known) => (known.id === 'in_service') === inService.value),
)
watch(inService, (live) => (condition.value = live ? 'in_service' : 'lifted'))
const field = useTemplateRef('field')
useShortcuts({ r: () => field.value?.focus() })
const partOptions = computed(() => parts.map((title, index) => ({ id: String(index), title })))
function setTo(asked: Schemas['AskOut']) {
  quantity.value = asked.quantity
  section.value = String(asked.section)
  condition.value = asked.condition === 'new_part' ? asked.condition : 'lifted'
  entry.frequency ||= asked.frequency
  entry.volts ||= asked.volts
  if (!entry.reading) forget()
}
function measure() {
  if (next) setTo(next)
  field.value?.focus()
}
// What settles the verdict is what the form is set to.
watch(
  () => next && `${next.quantity} ${next.section} ${next.condition} ${next.frequency} ${next.volts}`,
  () => {
    if (next && !optional) setTo(next)
  },
  { immediate: true },
)

function clear() {
  Object.assign(entry, { reading: '', volts: next?.volts ?? '', frequency: next?.frequency ?? '', after: '' })
  forget()
}
/** What was entered is on its way behind the field; one that is refused comes back to it, unless the next is being typed there. */
const { entered, back, put, mend } = useEnterReadings(positionId, (row) => {
  if (!entry.reading) void takeBack(row)
})
const problem = ref<Schemas['Problem']>()
const at = (field: string) => problem.value?.errors.find((error) => error.field === field)?.sentence
const general = computed(() => {
  const shown = [...FIELDS, ...extras.value.map((extra) => extra.field)]
  return problem.value ? saysElsewhere(problem.value, shown) : ''
})
const away = computed(() => entered.value.filter((row) => !row.sent && !row.refused).length)
watch(away, (left) => !left && !entry.reading && emit('judged'))
function enter() {
  if (!entry.reading && (back.value || away.value)) {
    if (back.value) void takeBack(back.value)
    return
  }
  const asked = new Set(extras.value.map((extra) => extra.field))
  const shown = Object.fromEntries(Object.entries(entry).filter(([name]) => asked.has(name)))
  problem.value = undefined
  put({
    ...EMPTY,
    ...shown,
    temperature_c: sent({ name: 'temperature_c', label: '', kind: 'number' }, shown.temperature_c) as number | null,
    value: entry.reading,
    meter_id: meter.value,
    condition: condition.value,
    section: Number(section.value),
    quantity: quantity.value,
  })
  clear()
}
/** Back into its fields, what is wrong beside them. */
async function takeBack(row: Entered<Schemas['ReadingIn']>) {
  const line = mend(row.key)
  if (!line) return
  quantity.value = line.quantity
  section.value = String(line.section)
  meter.value = line.meter_id
  await nextTick() // what is measured in service, or not, sets how
  condition.value = line.condition
  const { value, ...others } = line
  const extra = Object.entries(others).filter(([name]) => name in EMPTY)
  Object.assign(entry, Object.fromEntries(extra.map(([name, text]) => [name, String(text ?? '')])), { reading: value })
  problem.value = row.refused
}
</script>

<template>
  <form @submit.prevent="enter">
    <p v-if="next && !told" class="mb-3 border-l-[3px] border-ochre bg-sheet px-3 py-2 font-semibold">
      {{ next.sentence }}
      <button
        v-if="optional && (quantity !== next.quantity || section !== String(next.section))"
        class="min-h-11 px-2 underline underline-offset-4"
        type="button"
        @click="measure"
      >
        Measure that
      </button>
    </p>
    <p v-if="inService" class="mb-3 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">
      {{ offered?.live_caution }}
    </p>
    <div class="grid items-start gap-3 sm:grid-cols-[10rem_minmax(0,1fr)_11rem_auto]">
      <TextField ref="field" v-model="entry.reading" :label="`Reading, such as ${example}`" mono :error="at('value')" />
      <SelectField v-model="meter" label="Meter" :options="meterOptions" :error="at('meter_id')" />
      <SelectField v-model="condition" label="Measured" :options="conditions" :error="at('condition')" />
      <ActionButton class="sm:mt-6" :primary type="submit" hint="r">Judge it</ActionButton>
      <SelectField
        v-model="quantity"
        label="What is measured"
        :options="offered?.quantities ?? []"
        :error="at('quantity')"
      />
      <TextField
        v-for="extra in extras"
        :key="extra.field"
        v-model="entry[extra.field as keyof typeof entry]"
        :label="extra.label"
        mono
        :error="at(extra.field)"
      />
      <SelectField
        v-if="parts.length > 1"
        v-model="section"
        label="Which of them"
        :options="partOptions"
        :error="at('section')"
      />
    </div>
    <ProblemNote class="mt-3" :sentence="general" />
    <EnteredLines :entered :said="(line) => line.value" :begun="Boolean(entry.reading)" @mend="takeBack" />
    <p v-if="meters && !meterOptions.length" class="mt-2 text-small">
      No meter yet: add one under <RouterLink class="underline" to="/meters">Meters</RouterLink>, with its accuracy.
    </p>
  </form>
</template>
