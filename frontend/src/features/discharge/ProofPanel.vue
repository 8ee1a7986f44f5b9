<script setup lang="ts">
import { JUST_READ_MIN, useKept } from '@/api/kept'
import { reactive, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import type { NamesOf } from '@/api/write'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import EggMark from '@/ui/EggMark.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import KnownSource from './KnownSource.vue'
import LinkAsked from './LinkAsked.vue'
import ProofGrid, { type PairTyped } from './ProofGrid.vue'
import { proofOptions, useProofMeters } from './meter'
import { useProve } from './queries'

/** Live, dead, live: the meter on a known source, every pair on DC and AC, the known source again; above 1 kV a probe first. */
const { positionId, proof, since } = defineProps<{
  positionId: string
  proof: Schemas['ProofAsked']
  primary: boolean
  /** The last word about its charge: what was read before it proves nothing after it. */
  since: number
}>()
type Field = NamesOf<Schemas['ProofIn']>
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
const { write, pending, at, general } = useProve(positionId, fields)
const blank = (): PairTyped[] => proof.pairs.map(() => ({ dc: '', ac: '', low: '' }))
const readings = ref(blank())
const probeReadings = ref(proof.pairs.map(() => ''))
const known = ref({ known_before: '', known_before_ac: '', known_after: '', known_after_ac: '' })
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
watch(
  () => since,
  () => {
    if (!pending.value && !Object.keys(left.value).length) begin()
  },
)

async function prove() {
  left.value = {}
  const answer = await write({
    meter_id: meter.value,
    ...known.value,
    readings: readings.value,
    probe_id: probed.value ? probe.value : null,
    probe_readings: probed.value ? probeReadings.value : [],
    shorted: shorted.value,
    link: link.value,
    stood_open: stoodOpen.value,
  })
  left.value = Object.fromEntries(answer?.left.map((found) => [found.field, found.sentence]) ?? [])
  if (!answer || answer.left.length) return
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
      <ActionButton class="mt-3" :primary type="submit" hint="p" :disabled="pending">Record the proof</ActionButton>
    </form>
  </section>
</template>
