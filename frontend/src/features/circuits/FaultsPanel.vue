<script setup lang="ts">
import { computed, reactive, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import TextField from '@/ui/TextField.vue'
import SuspectList from './SuspectList.vue'
import { useFaults } from './queries'

/** What was measured on a dropper under each load, and which fault explains it. */
const { dropper, states } = defineProps<{ dropper: Schemas['DropperIn']; states: string[] }>()
const COLUMNS = [
  { name: 'rails', label: 'Rail' },
  { name: 'ripples', label: 'Ripple' },
  { name: 'currents', label: 'Mains current' },
  { name: 'powers', label: 'Power, or pf' },
] as const
const typed = reactive({
  rails: [] as string[],
  ripples: [] as string[],
  currents: [] as string[],
  powers: [] as string[],
  error: '2 %',
})
const places = computed(() => [...states, 'load unplugged'])
const full = (column: string[]) => places.value.map((_, index) => column[index] ?? '')
const asked = toRef(() => ({
  ...dropper,
  rails: full(typed.rails),
  ripples: full(typed.ripples),
  currents: full(typed.currents),
  powers: full(typed.powers),
  error: typed.error,
}))
const { data: found, at, isFetching } = useFaults(asked)
</script>

<template>
  <p class="text-small text-slate7">
    Type what was measured, as much as there is; mains as above. Leave empty what was not.
  </p>
  <div class="mt-2 grid max-w-3xl gap-y-2">
    <fieldset
      v-for="(place, index) in places"
      :key="place"
      :aria-label="`${place}, measured`"
      class="grid grid-cols-2 items-start gap-x-3 gap-y-2 sm:grid-cols-[9rem_repeat(4,minmax(0,1fr))]"
    >
      <span class="col-span-2 font-semibold sm:col-span-1 sm:pt-8" aria-hidden="true">{{ place }}</span>
      <TextField
        v-for="column in COLUMNS"
        :key="column.name"
        v-model="typed[column.name][index]"
        :label="column.label"
        mono
        :error="at(`${column.name}.${index}`)"
      />
    </fieldset>
    <TextField v-model="typed.error" class="w-40" label="Error of a reading" mono :error="at('error')" />
  </div>
  <p v-if="isFetching" class="mt-2 text-small text-slate5" role="status">Simulating each fault…</p>
  <template v-if="found">
    <p class="mt-4 border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">{{ found.caution }}</p>
    <SuspectList class="mt-3" :suspects="found.suspects" />
    <p v-if="found.unmarked.length" class="mt-2 text-small text-slate7">
      Would leave no mark on these readings: {{ found.unmarked.join(', ') }}.
    </p>
    <ul v-if="found.capacitance.length" class="mt-3 max-w-3xl" aria-label="What it says of the capacitance">
      <li v-for="sentence in found.capacitance" :key="sentence" class="border-l-4 border-tide px-3 py-1">
        {{ sentence }}
      </li>
    </ul>
  </template>
</template>
