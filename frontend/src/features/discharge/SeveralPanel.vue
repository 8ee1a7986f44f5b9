<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import KnownSource from './KnownSource.vue'
import LinkAsked from './LinkAsked.vue'
import ProofGrid, { type PairTyped } from './ProofGrid.vue'
import { proofOptions, useProofMeters } from './meter'
import { useProveSeveral, useToProve } from './queries'

/** A board or a can in one go: one known source, then the pairs of each part in order. Parts left blank are left out. */
const { jobId } = defineProps<{ jobId: string }>()
const KNOWN = ['known_before', 'known_before_ac', 'known_after', 'known_after_ac'] as const
const open = ref(false)
const { data: places } = useToProve(jobId, open)
const { write, pending, problem } = useProveSeveral(jobId)
const known = ref({ known_before: '', known_before_ac: '', known_after: '', known_after_ac: '' })
interface Typed {
  readings: PairTyped[]
  probe: string[]
  shorted: boolean
  link: string
  open: boolean
}
const typed = ref<Record<string, Typed>>({})
watch(places, (found) => {
  for (const { position_id: id, proof } of found ?? [])
    typed.value[id] ??= {
      readings: proof.pairs.map(() => ({ dc: '', ac: '', low: '' })),
      probe: proof.pairs.map(() => ''),
      shorted: false,
      link: '',
      open: false,
    }
})
const provable = computed(() => (places.value ?? []).filter((one) => !one.proof.hidden && typed.value[one.position_id]))
const measured = computed(() =>
  provable.value.filter((one) => typed.value[one.position_id]?.readings.some((read) => read.dc || read.ac)),
)
/** One meter for all: it has to do for the one that asks most. */
const hardest = computed<Schemas['ProofAsked']>(() => {
  const all = provable.value.map((one) => one.proof)
  const first = all[0]
  const meters = (first?.meters ?? []).map((meter) => {
    const same = all.map((proof) => proof.meters.find((m) => m.id === meter.id)).filter((m) => m !== undefined)
    const said = (key: 'refusals' | 'after_probe') => [...new Set(same.flatMap((m) => m[key]))]
    return { ...meter, refusals: said('refusals'), after_probe: said('after_probe') }
  })
  return { ...(first as Schemas['ProofAsked']), meters, two_stages: all.some((proof) => proof.two_stages) }
})
const { meter, probe, chosen, against } = useProofMeters(() => hardest.value)
const probedFirst = (proof: Schemas['ProofAsked']) => proof.two_stages && chosen.value?.probe === false
const left = ref<Record<string, string>>({})
const at = (field: string) => problem.value?.at(field)
const wrongAt = (id: string) => (field: string) => {
  const number = measured.value.findIndex((one) => one.position_id === id)
  return left.value[`${id}.${field}`] ?? (number >= 0 ? at(`places.${number}.${field}`) : undefined)
}
const general = computed(() => {
  const found = problem.value?.problem
  if (!found) return ''
  return found.errors.length
    ? found.errors
        .filter((error) => !error.field.startsWith('places.') && !(KNOWN as readonly string[]).includes(error.field))
        .map((error) => error.sentence)
        .join(' ')
    : found.detail
})
const first = useTemplateRef('first')

async function prove() {
  left.value = {}
  const sent = measured.value.map((one) => one.position_id)
  const answer = await write({
    meter_id: meter.value,
    ...known.value,
    probe_id: measured.value.some((one) => probedFirst(one.proof)) ? probe.value : null,
    places: measured.value.flatMap(({ position_id, proof }) => {
      const one = typed.value[position_id]
      if (!one) return []
      const probe_readings = probedFirst(proof) ? one.probe : []
      return {
        position_id,
        readings: one.readings,
        probe_readings,
        shorted: one.shorted,
        link: one.link,
        stood_open: one.open,
      }
    }),
  })
  if (!answer) return
  answer.places.forEach((found, number) => {
    for (const one of found.left) left.value[`${sent[number]}.${one.field}`] = one.sentence
  })
  const kept = Object.entries(typed.value).filter(([id]) => answer.places[sent.indexOf(id)]?.left.length !== 0)
  typed.value = Object.fromEntries(kept)
  if (Object.keys(left.value).length) return
  for (const field of KNOWN) known.value[field] = ''
  open.value = false
}
const unfold = (event: Event) => {
  open.value = (event.target as HTMLDetailsElement).open
}
watch([open, first], () => open.value && first.value?.focus(), { flush: 'post' })
</script>

<template>
  <details class="mt-4 border-t border-slate2" :open @toggle="unfold">
    <summary class="flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-3 py-3">
      <span class="font-semibold">Prove several at once</span>
      <span class="text-small text-slate5">one known source, then part after part</span>
    </summary>
    <p v-if="open && places && !provable.length">Every part here is proved, kept shorted or energised.</p>
    <form v-if="open && provable.length" class="max-w-2xl" aria-label="Prove several" @submit.prevent="prove">
      <div class="grid items-start gap-3 sm:grid-cols-2">
        <SelectField v-model="meter" label="Meter" :options="proofOptions(hardest)" :error="at('meter_id')" />
        <SelectField
          v-if="hardest.two_stages && chosen?.probe === false"
          v-model="probe"
          label="Probe, laid on first"
          :options="hardest.meters.filter((m) => m.probe).map((m) => ({ id: m.id, title: m.name }))"
        />
        <p v-if="against.length" class="font-semibold text-danger sm:col-span-2">{{ against.join(' ') }}</p>
      </div>
      <p class="mt-2 text-small text-slate7">
        The space bar types {{ chosen?.nothing }} V, below the last digit, and goes on. A part left blank is left out.
      </p>
      <KnownSource
        ref="first"
        v-model:dc="known.known_before"
        v-model:ac="known.known_before_ac"
        label="Known source first, V"
        headed
        :errors="{ dc: at('known_before'), ac: at('known_before_ac') }"
      />
      <fieldset v-for="one in provable" :key="one.position_id" class="border-t border-slate2 py-2">
        <legend class="float-left w-full py-1 font-semibold">{{ one.name }}</legend>
        <template v-if="typed[one.position_id]">
          <ProofGrid
            v-model="typed[one.position_id]!.readings"
            v-model:probe="typed[one.position_id]!.probe"
            class="clear-both"
            :name="one.name"
            :pairs="one.proof.pairs"
            :nothing="chosen?.nothing ?? ''"
            :probed="probedFirst(one.proof)"
            :wrong="wrongAt(one.position_id)"
          />
          <label v-if="probedFirst(one.proof)" class="flex min-h-11 items-center gap-3">
            <input v-model="typed[one.position_id]!.shorted" type="checkbox" class="size-5" />
            Shorted through the tool after the probe
          </label>
          <LinkAsked
            v-if="one.proof.creeps_back || wrongAt(one.position_id)('link')"
            v-model="typed[one.position_id]!.link"
            v-model:open="typed[one.position_id]!.open"
            :says="one.proof.creeps_back"
            :error="wrongAt(one.position_id)('link')"
          />
          <p
            v-for="field in ['readings', 'shorted', 'probe_readings']"
            :key="field"
            role="alert"
            class="text-small font-semibold text-danger"
          >
            {{ wrongAt(one.position_id)(field) }}
          </p>
        </template>
      </fieldset>
      <KnownSource
        v-model:dc="known.known_after"
        v-model:ac="known.known_after_ac"
        label="Known source again, V"
        :errors="{ dc: at('known_after'), ac: at('known_after_ac') }"
      />
      <ProblemNote class="mt-3" :sentence="general" />
      <ActionButton class="mt-3" primary type="submit" :disabled="pending || !measured.length"
        >Record the proofs of {{ measured.length }}</ActionButton
      >
    </form>
  </details>
</template>
