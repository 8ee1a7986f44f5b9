<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import EggMark from '@/ui/EggMark.vue'
import SelectField from '@/ui/SelectField.vue'
import KnownSource from './KnownSource.vue'
import { meterOptions, useChosenMeter } from './meter'
import type { NamesOf } from '@/api/write'
import { useProve } from './queries'

/** Live, dead, live: the meter on a known source, every pair on DC and AC, the known source again. */
const { positionId, proof } = defineProps<{ positionId: string; proof: Schemas['ProofAsked']; primary: boolean }>()
const fields: NamesOf<Schemas['ProofIn']>[] = [
  'meter_id',
  'known_before',
  'known_after',
  ...proof.pairs.flatMap((_, index) => [`readings.${index}.dc` as const, `readings.${index}.ac` as const]),
]
const { write, pending, at, general } = useProve(positionId, fields)
const blank = () => proof.pairs.map(() => ({ dc: '', ac: '' }))
const readings = ref(blank())
const before = ref('')
const after = ref('')
const meter = useChosenMeter(() => proof.meters)
const options = computed(() => meterOptions(proof.meters))
const against = computed(() => proof.meters.find((m) => m.id === meter.value)?.refusals ?? [])
const left = ref<Record<string, string>>({})
const wrong = (index: number, kind: string) =>
  left.value[`readings.${index}.${kind}`] ?? at(`readings.${index}.${kind}`)
const first = useTemplateRef('first')
useShortcuts({ p: () => first.value?.focus() })

async function prove() {
  const body = { meter_id: meter.value, known_before: before.value, readings: readings.value, known_after: after.value }
  left.value = {}
  const answer = await write(body)
  left.value = Object.fromEntries(answer?.left.map((found) => [found.field, found.sentence]) ?? [])
  if (!answer || answer.left.length) return
  readings.value = blank()
  before.value = after.value = ''
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur() // single keys act again
}
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
    <form v-if="!proof.hidden" class="mt-2" @submit.prevent="prove">
      <div class="grid items-start gap-3 sm:grid-cols-[16rem_minmax(0,1fr)]">
        <SelectField v-model="meter" label="Meter" :options :error="at('meter_id')" />
        <p v-if="against.length" class="font-semibold text-danger sm:mt-8">{{ against.join(' ') }}</p>
      </div>
      <div class="mt-3 grid max-w-lg grid-cols-[minmax(0,1fr)_6.5rem_6.5rem] items-center gap-x-3 gap-y-1">
        <KnownSource ref="first" v-model="before" label="Known source first, V" :error="at('known_before')" />
        <template v-for="(pair, index) in proof.pairs" :key="pair">
          <span class="self-center" :class="index ? '' : 'pt-6'">{{ pair }}</span>
          <div v-for="kind in ['dc', 'ac'] as const" :key="kind">
            <span v-if="!index" class="block text-small text-slate5" aria-hidden="true"
              >{{ kind.toUpperCase() }}, V</span
            >
            <input
              v-model="readings[index]![kind]"
              :aria-label="`${pair}, ${kind.toUpperCase()}, V`"
              :aria-invalid="wrong(index, kind) ? true : undefined"
              autocomplete="off"
              class="mt-1 min-h-11 w-full rounded-sm border bg-sheet px-3 py-2 font-mono"
              :class="wrong(index, kind) ? 'border-2 border-danger' : 'border-slate3'"
            />
          </div>
          <p
            v-if="wrong(index, 'dc') || wrong(index, 'ac')"
            role="alert"
            class="col-span-3 text-small font-semibold text-danger"
          >
            {{ wrong(index, 'dc') ?? wrong(index, 'ac') }}
          </p>
        </template>
        <KnownSource v-model="after" label="Known source again, V" :error="at('known_after')" />
      </div>
      <ProblemNote class="mt-3" :sentence="general" />
      <ActionButton class="mt-3" :primary type="submit" hint="p" :disabled="pending">Record the proof</ActionButton>
    </form>
  </section>
</template>
