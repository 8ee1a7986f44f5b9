<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import { useAsksFor } from '@/api/may'
import { useShortcuts } from '@/app/shortcuts'
import MarkingEcho from '@/features/reading/MarkingEcho.vue'
import ActionButton from '@/ui/ActionButton.vue'
import FigureSum from '@/ui/FigureSum.vue'
import EggMark from '@/ui/EggMark.vue'
import EditDialog from '@/ui/EditDialog.vue'
import TextField from '@/ui/TextField.vue'
import { fieldsOf, type Draft } from '@/ui/fields'
import { useTerms } from '@/features/workshop/queries'
import DrawerFilters from './DrawerFilters.vue'
import ImportDialog from './ImportDialog.vue'
import MovesDialog from './MovesDialog.vue'
import UnsettledParts from './UnsettledParts.vue'
import { FILTERS, useFilters } from './filters'
import { partById, useParts, useSavePart } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** The drawer: every part by value, found by any words. */
const route = useRoute()
const { on, words, asked } = useFilters()
const { data: parts, error } = useParts(asked)
const narrowed = computed(() => words.value || FILTERS.some((name) => on[name].value))
const { data: offered } = useVocabulary()
const { data: terms } = useTerms()
const currency = computed(() => terms.value?.currency ?? '')
const leads = computed(() => [{ id: '', title: 'not noted' }, ...(offered.value?.lead_forms ?? [])])
const FIELDS = computed(() =>
  fieldsOf<Schemas['PartIn']>({
    marking: { label: 'What is printed on it', wide: true, mono: true },
    kind: { label: 'Made as', kind: 'select', options: offered.value?.kinds },
    origin: { label: 'Comes from', kind: 'select', options: offered.value?.origins },
    quantity: { label: 'How many', kind: 'number' },
    place: { label: 'Drawer' },
    lot: { label: 'Lot', mono: true },
    date_code: { label: 'Date code', mono: true },
    lead_form: { label: 'Connected by', kind: 'select', options: leads.value },
    measured: { label: 'Measured, of a salvaged part' },
    length_mm: { label: 'Length or Ø, mm', kind: 'number' },
    width_mm: { label: 'Width or Ø, mm', kind: 'number' },
    height_mm: { label: 'Height, mm', kind: 'number' },
    pitch_mm: { label: 'Lead pitch, mm', kind: 'number' },
    ripple: { label: 'Ripple current, rms', mono: true, hint: 'as on its data sheet, 0.56 A' },
    dvdt: { label: 'dv/dt, V/µs', kind: 'number' },
    peak: { label: 'Peak current', mono: true, hint: 'as on its data sheet, 20 A' },
    esr: { label: 'ESR at 100 Hz', mono: true, hint: 'as on its data sheet, 0.4 Ω' },
    price: { label: 'Price', kind: 'number' },
    humidity_grade: { label: 'Tested at 85 °C and 85 % r.h. under voltage', kind: 'check' },
  }),
)
const writer = useSavePart(FIELDS.value)
const open = ref<Draft | null>(null)
const importing = ref(false)
const moving = ref<Schemas['PartOut']>()
const MOST = 300
/** A drawer's label opens its part. */
const scanned = String(route.query.part ?? '')
if (scanned) void partById(scanned).then((found) => (moving.value = found))
const add = () => (open.value = { kind: 'film_safety', origin: 'new', quantity: 1 })
const asksFor = useAsksFor()
useShortcuts({ n: () => asksFor('decide') || add() })
const size = (part: Schemas['PartOut']) =>
  part.length_mm && part.width_mm && part.height_mm ? `${part.length_mm} × ${part.width_mm} × ${part.height_mm} mm` : ''
</script>

<template>
  <main class="p-5 pb-10">
    <div class="flex flex-wrap items-end justify-between gap-4">
      <h1 class="text-title font-semibold">Drawer</h1>
      <TextField
        v-model="words"
        class="w-full sm:w-80"
        label="Find by any words, value, class or pitch: x2 680n 22.5"
      />
    </div>
    <div class="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <ActionButton primary hint="n" asks="decide" @click="add">Add a part</ActionButton>
      <ActionButton @click="importing = true">Import a list</ActionButton>
      <RouterLink class="inline-flex min-h-11 items-center underline underline-offset-4" to="/shopping"
        >Shopping list</RouterLink
      >
      <a class="inline-flex min-h-11 items-center underline underline-offset-4" href="/api/part-lists/drawer.csv"
        >Export as CSV</a
      >
    </div>
    <DrawerFilters class="mt-3" :on :parts @turn="(name, value) => (on[name].value = value)" />
    <p v-if="error" class="mt-4" role="alert">{{ error.message }}</p>
    <UnsettledParts v-if="!importing && !open" />
    <WaitingShape class="mt-4" :when="!parts && !error" :rows="8" />
    <div
      v-if="parts?.length"
      class="mt-4 grid grid-cols-[minmax(0,1fr)_7rem] pb-1 text-small font-semibold text-slate7 max-lg:hidden"
      aria-hidden="true"
    >
      <div class="grid gap-x-4 lg:grid-cols-[9rem_minmax(0,3fr)_minmax(0,2fr)_minmax(0,2fr)]">
        <span>Value</span><span>Rating, as printed</span><span>Made as</span><span>Size</span>
      </div>
      <span class="px-1 text-right">In stock, price</span>
    </div>
    <ul class="border-t border-slate2 max-lg:mt-4" aria-label="Parts by value">
      <li
        v-for="part in parts"
        :key="part.id"
        class="grid grid-cols-[minmax(0,1fr)_5rem] border-b border-slate2 lg:grid-cols-[minmax(0,1fr)_7rem]"
      >
        <button
          class="grid gap-x-4 py-3 text-left hover:bg-sheet lg:grid-cols-[9rem_minmax(0,3fr)_minmax(0,2fr)_minmax(0,2fr)]"
          @click="open = { ...part }"
        >
          <span class="text-lead"><FigureSum :figures="part.capacitance" size="line" /></span>
          <span>
            {{ part.ratings || 'no rating printed' }}
            <span class="block text-small text-slate5">{{ part.marking }}</span>
            <span v-if="part.doubts[0]" class="flex items-center gap-2 text-small font-semibold text-ochre-text"
              ><EggMark />{{ part.doubts[0].asks }}</span
            >
          </span>
          <span class="max-lg:hidden"
            >{{ part.kind_title }}<template v-if="part.origin !== 'new'">, {{ part.origin_title }}</template></span
          >
          <span class="text-slate5 max-lg:hidden"
            >{{ size(part) }}<template v-if="part.pitch_mm">, pitch {{ part.pitch_mm }}</template></span
          >
        </button>
        <button class="min-h-11 px-1 text-right hover:bg-sheet" @click="moving = part">
          <span class="sr-only">{{ part.marking }}: in, out, counted. </span
          ><span class="font-mono text-lead underline underline-offset-4">{{ part.quantity }}</span> in
          {{ part.place || '–' }}
          <span class="block text-small text-slate5"
            ><template v-if="part.price">{{ part.price }} {{ currency }}</template></span
          >
        </button>
      </li>
    </ul>
    <p v-if="parts && !parts.length" class="py-6">
      {{
        narrowed
          ? 'No part of the drawer is all of that.'
          : 'The drawer is empty: add a part by typing what is printed on it.'
      }}
    </p>
    <p v-if="parts?.length === MOST" class="mt-2 text-small text-slate5">
      The first {{ MOST }}: add a word to see others.
    </p>
    <ImportDialog v-if="importing" @close="importing = false" />
    <EditDialog v-if="open" asks="decide" title="Part" wide :fields="FIELDS" :start="open" :writer @close="open = null">
      <template #marking="{ draft }"
        ><MarkingEcho :text="String(draft.marking ?? '')" @choose="draft.marking = $event"
      /></template>
    </EditDialog>
    <MovesDialog v-if="moving" :part="moving" @close="moving = undefined" />
  </main>
</template>
