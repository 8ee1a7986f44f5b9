<script setup lang="ts">
import { nextTick } from 'vue'
import type { Schemas } from '@/api/client'

export interface PairTyped {
  dc: string
  ac: string
  low: string
}

/** The pairs of one part, on DC and AC: the space bar types *below the last digit* and goes on to the next field. */
const { pairs, nothing, probed, wrong } = defineProps<{
  pairs: string[]
  nothing: string
  probed: boolean
  name?: string
  wrong: (field: string) => string | undefined
}>()
const readings = defineModel<PairTyped[]>({ required: true })
const probe = defineModel<string[]>('probe', { required: true })

function below(event: KeyboardEvent, put: (typed: string) => void) {
  const field = event.target as HTMLInputElement
  if (field.value.trim()) return
  event.preventDefault()
  put(nothing)
  void nextTick(() => next(field))
}
/** The field after one, wherever on the page it stands. */
function next(field: HTMLInputElement) {
  const fields = [...(field.form?.querySelectorAll<HTMLInputElement>('input[data-reading]') ?? [])]
  fields[fields.indexOf(field) + 1]?.focus()
}
/** The first reading that is still empty, for who has no space bar. */
function tapped() {
  const empty = readings.value.flatMap((read) =>
    (['dc', 'ac'] as const).filter((kind) => !read[kind]).map((kind) => ({ read, kind })),
  )[0]
  if (empty) empty.read[empty.kind] = nothing
}
const asks = (index: number): (keyof Schemas['PairIn'])[] =>
  readings.value[index]?.low || wrong(`readings.${index}.ac`)?.includes('low-impedance') ? ['low'] : []
const says = (index: number) =>
  wrong(`probe_readings.${index}`) ??
  wrong(`readings.${index}.dc`) ??
  wrong(`readings.${index}.ac`) ??
  wrong(`readings.${index}.low`)
const bad = (field: string) => (wrong(field) ? 'border-2 border-danger' : 'border-slate3')
const FIELD = 'mt-1 min-h-11 w-full rounded-sm border bg-sheet px-3 py-2 font-mono'
</script>

<template>
  <div
    class="grid items-center gap-x-3 gap-y-1"
    :class="
      probed
        ? 'grid-cols-[minmax(0,1fr)_5.75rem_5.75rem_5.75rem] max-sm:grid-cols-3'
        : 'grid-cols-[minmax(0,1fr)_5.75rem_5.75rem]'
    "
  >
    <p v-if="probed" class="col-span-full text-right text-small text-slate5" aria-hidden="true">
      probe DC, then DC, AC
    </p>
    <button
      type="button"
      class="col-span-full min-h-11 text-left underline decoration-slate3 underline-offset-4 sm:hidden"
      @click="tapped"
    >
      Nothing on the next: {{ nothing }} V
    </button>
    <template v-for="(pair, index) in pairs" :key="pair">
      <span class="self-center" :class="probed ? 'max-sm:col-span-3' : ''">{{ pair }}</span>
      <input
        v-if="probed"
        v-model="probe[index]"
        data-reading
        inputmode="decimal"
        :aria-label="`${name ? `${name}, ` : ''}${pair}, probe, V`"
        :aria-invalid="wrong(`probe_readings.${index}`) ? true : undefined"
        autocomplete="off"
        :class="[FIELD, bad(`probe_readings.${index}`)]"
      />
      <input
        v-for="kind in ['dc', 'ac'] as const"
        :key="kind"
        v-model="readings[index]![kind]"
        data-reading
        inputmode="decimal"
        :aria-label="`${name ? `${name}, ` : ''}${pair}, ${kind.toUpperCase()}, V`"
        :aria-invalid="wrong(`readings.${index}.${kind}`) ? true : undefined"
        autocomplete="off"
        :class="[FIELD, bad(`readings.${index}.${kind}`)]"
        @keydown.space="below($event, (typed) => (readings[index]![kind] = typed))"
      />
      <template v-for="kind in asks(index)" :key="kind">
        <label :for="`${name ?? ''}-low-${index}`" class="col-span-2 text-right"
          >{{ pair }}, AC at low impedance, V</label
        >
        <input
          :id="`${name ?? ''}-low-${index}`"
          v-model="readings[index]!.low"
          data-reading
          inputmode="decimal"
          autocomplete="off"
          :class="[FIELD, bad(`readings.${index}.low`)]"
        />
      </template>
      <p v-if="says(index)" role="alert" class="col-span-full text-small font-semibold text-danger">
        {{ says(index) }}
      </p>
    </template>
  </div>
</template>
