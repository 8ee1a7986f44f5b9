<script setup lang="ts">
import { JUST_READ_MIN, useKept } from '@/api/kept'
import { clockTime } from '@/api/measures'
import { ahead } from '@/api/offline'
import { computed, reactive, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import type { Entered } from '@/api/lines'
import { saysElsewhere, type NamesOf } from '@/api/write'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import EggMark from '@/ui/EggMark.vue'
import EnteredLines from '@/ui/EnteredLines.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import KnownSource from './KnownSource.vue'
import LinkAsked from './LinkAsked.vue'
import ProofGrid, { type PairTyped } from './ProofGrid.vue'
import { proofOptions, useProofMeters } from './meter'
import { useProve, type Proof } from './queries'

/** Live, dead, live: the meter on a known source, every pair on DC and AC, the known source again; above 1 kV a probe first. */
const { positionId, proof, since, notedAt } = defineProps<{
  positionId: string
  proof: Schemas['ProofAsked']
  primary: boolean
  /** The last word about its charge, and when it was said: what was read before it proves nothing after it. */
  since: number
  notedAt: string
}>()
type Field = NamesOf<Proof>
const KNOWN = ['known_before', 'known_before_ac', 'known_after', 'known_after_ac'] as const
const fields: Field[] = [
  'meter_id',
  'probe_id',
  'shorted',
  'link',
  ...KNOWN,
  ...proof.pairs.flatMap((_, index): Field[] => [
    `readings.${index}.dc`,
    `readings.${index}.ac`,
    `readings.${index}.low`,
    `probe_readings.${index}`,
  ]),
]
const blank = (): PairTyped[] => proof.pairs.map(() => ({ dc: '', ac: '', low: '' }))
const readings = ref(blank())
const probeReadings = ref(proof.pairs.map(() => ''))
const none = () => ({ known_before: '', known_before_ac: '', known_after: '', known_after_ac: '' })
const known = ref(none())
const shorted = ref(false)
const link = ref('')
const stoodOpen = ref(false)
const { resumed } = useKept(
  `proof ${positionId}`,
  reactive({ readings, probeReadings, known, shorted, link, stoodOpen }),
  JUST_READ_MIN,
  () => since,
)
const { meter, probe, chosen, probed, against } = useProofMeters(() => proof)
const left = ref<Record<string, string>>({})
const problem = ref<Schemas['Problem']>()
const at = (field: string) => problem.value?.errors.find((error) => error.field === field)?.sentence
const tooOld = ref('')
const general = computed(() => tooOld.value || (problem.value && saysElsewhere(problem.value, fields)))
const wrong = (field: string) => left.value[field] ?? at(field)
const first = useTemplateRef('first')
useShortcuts({ p: () => first.value?.focus() })

function begin() {
  readings.value = blank()
  probeReadings.value = proof.pairs.map(() => '')
  for (const field of KNOWN) known.value[field] = ''
  shorted.value = stoodOpen.value = false
  link.value = '' // where it was says nothing of the next proof
}
const typed = () => JSON.stringify([readings.value, probeReadings.value, known.value, link.value])
const untyped = JSON.stringify([blank(), proof.pairs.map(() => ''), none(), ''])
const begun = computed(() => typed() !== untyped)

const MOMENT_MS = 3_000 // by which a word that was said before may come to be dated later on its way
/** When the first of the pairs was read, by the server's clock; of what was resumed nobody knows. */
let readFrom = resumed ? 0 : Infinity
/** Whether what was read then may still be gone on with: it was just read, and nothing was noted of the charge since. */
const holds = (from: number) =>
  Date.now() + ahead.value - from < JUST_READ_MIN * 60_000 && !(Date.parse(notedAt) > from + MOMENT_MS)

/** A proof is recorded behind the form, as readings are: what is wrong with it brings it back, where nothing else is typed. */
const { entered, put, mend } = useProve(
  positionId,
  (done, body) => {
    if (!done.left.length) return
    const from = (entered.value.find((row) => row.line === body)?.at ?? 0) + ahead.value
    if (!begun.value && holds(from)) fill(body, from)
    left.value = Object.fromEntries(done.left.map((found) => [found.field, found.sentence]))
  },
  (row) => begun.value || takeBack(row),
)
function fill(body: Proof, from: number) {
  readFrom = from
  readings.value = proof.pairs.map((_, index) => ({ dc: '', ac: '', low: '', ...body.readings[index] }))
  probeReadings.value = proof.pairs.map((_, index) => body.probe_readings[index] ?? '')
  for (const field of KNOWN) known.value[field] = body[field]
  shorted.value = body.shorted
  link.value = body.link
  stoodOpen.value = body.stood_open
}
function takeBack(row: Entered<Proof>) {
  const body = mend(row.key)
  const from = (row.at ?? 0) + ahead.value
  problem.value = row.refused
  if (body && holds(from)) fill(body, from)
  else
    tooOld.value = `${row.refused?.errors[0]?.sentence ?? ''} That was read at ${clockTime(new Date(from).toISOString())}: read it again.`
}
const onItsWay = computed(() => entered.value.some((row) => !row.sent && !row.refused))

watch(
  () => JSON.stringify([readings.value, probeReadings.value]),
  (now) => {
    if (now === JSON.stringify([blank(), proof.pairs.map(() => '')])) readFrom = Infinity
    else if (readFrom === Infinity) readFrom = Date.now() + ahead.value
  },
)
/** A word that comes while somebody types, of what was noted before they began to read, takes nothing from them. */
watch(
  () => since,
  () => {
    if (Object.keys(left.value).length || Date.parse(notedAt) <= readFrom + MOMENT_MS) return
    begin()
  },
)

function prove() {
  if (!begun.value && onItsWay.value) return
  left.value = {}
  problem.value = undefined
  tooOld.value = ''
  put({
    meter_id: meter.value,
    ...known.value,
    readings: readings.value.map((row) => ({ ...row })),
    probe_id: probed.value ? probe.value : null,
    probe_readings: probed.value ? [...probeReadings.value] : [],
    shorted: shorted.value,
    link: link.value,
    stood_open: stoodOpen.value,
  })
  begin()
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur() // single keys act again
}
const typedAt = resumed?.toLocaleTimeString('en-GB', { timeStyle: 'short' })
</script>

<template>
  <section aria-label="Prove it" class="mt-6 border-t border-slate2 pt-4">
    <h3 class="text-lead font-semibold">Prove it below {{ proof.target.number }} {{ proof.target.unit }}</h3>
    <p v-if="proof.hidden" class="mt-2 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">
      {{ proof.hidden }}
    </p>
    <p
      v-else-if="proof.open_question"
      class="mt-2 flex items-center gap-2 border-l-4 border-ochre px-3 py-2 font-semibold"
    >
      <EggMark />{{ proof.open_question }}
    </p>
    <p v-if="typedAt" class="mt-2 font-semibold text-ochre-text" role="status">
      Half typed at {{ typedAt }}: read again what may have changed since.
    </p>
    <form v-if="!proof.hidden" class="mt-2 max-w-2xl" @submit.prevent="prove">
      <div class="grid items-start gap-3 sm:grid-cols-2">
        <SelectField v-model="meter" label="Meter" :options="proofOptions(proof)" :error="at('meter_id')" />
        <SelectField
          v-if="probed"
          v-model="probe"
          label="Probe, laid on first"
          :options="proof.meters.filter((m) => m.probe).map((m) => ({ id: m.id, title: m.name }))"
          :error="at('probe_id')"
        />
        <p v-if="against.length" class="font-semibold text-danger sm:col-span-2">{{ against.join(' ') }}</p>
      </div>
      <p v-if="probed" class="mt-2 font-semibold">
        The probe on every pair, then short it through the tool, then the multimeter.
      </p>
      <p class="mt-2 text-small text-slate7">
        On AC and on DC. The space bar types {{ chosen?.nothing }} V, below the last digit, and goes on.
      </p>
      <KnownSource
        ref="first"
        v-model:dc="known.known_before"
        v-model:ac="known.known_before_ac"
        label="Known source first, V"
        headed
        :errors="{ dc: at('known_before'), ac: at('known_before_ac') }"
      />
      <ProofGrid
        v-model="readings"
        v-model:probe="probeReadings"
        :pairs="proof.pairs"
        :nothing="chosen?.nothing ?? ''"
        :probed
        :wrong
      />
      <label v-if="probed" class="mt-2 flex min-h-11 items-center gap-3">
        <input v-model="shorted" type="checkbox" class="size-5" />
        Shorted through the tool after the probe
        <span v-if="at('shorted')" role="alert" class="text-small font-semibold text-danger">{{ at('shorted') }}</span>
      </label>
      <KnownSource
        v-model:dc="known.known_after"
        v-model:ac="known.known_after_ac"
        label="Known source again, V"
        :errors="{ dc: at('known_after'), ac: at('known_after_ac') }"
      />
      <LinkAsked
        v-if="proof.creeps_back || at('link')"
        v-model="link"
        v-model:open="stoodOpen"
        :says="proof.creeps_back"
        :error="at('link')"
      />
      <ProblemNote class="mt-3" :sentence="general" />
      <ActionButton class="mt-3" :primary type="submit" hint="p">Record the proof</ActionButton>
      <EnteredLines
        :entered="entered"
        :said="(body) => `Proof by ${body.known_before} V, ${body.known_before_ac} V`"
        :begun="begun"
        @mend="takeBack"
      />
    </form>
  </section>
</template>
