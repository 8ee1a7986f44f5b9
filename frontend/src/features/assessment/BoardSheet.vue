<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import BillDialog from '@/features/replacement/BillDialog.vue'
import FigureSum from '@/ui/FigureSum.vue'
import EggMark from '@/ui/EggMark.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import VerdictMark from '@/ui/VerdictMark.vue'
import { VERDICTS } from '@/ui/verdicts'
import BoardEntry from './BoardEntry.vue'
import WindowBar from './WindowBar.vue'
import { useBoard } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** Every position at a glance, what needs attention first, and a line to enter the next. */
const { sheet } = defineProps<{ sheet: Schemas['JobSheet'] }>()
const { data: board, error } = useBoard(sheet.job.id)
type Row = Schemas['BoardRow']
const collator = new Intl.Collator('en', { numeric: true })
const byName = (a: Row, b: Row) => collator.compare(a.name, b.name)
const ORDERS: { id: string; title: string; compare: (a: Row, b: Row) => number }[] = [
  { id: 'attention', title: 'what needs attention', compare: (a, b) => b.attention - a.attention || byName(a, b) },
  { id: 'name', title: 'by name', compare: byName },
  { id: 'does', title: 'what it does', compare: (a, b) => a.role_title.localeCompare(b.role_title) || byName(a, b) },
]
const order = ref('attention')
const billing = ref(false)
const rows = computed(() =>
  [...(board.value?.rows ?? [])].sort(ORDERS.find((known) => known.id === order.value)?.compare),
)
const charged = computed(() => sheet.charge_line.some((item) => item.caution))
const names = computed(() => sheet.positions.map((position) => position.name))
</script>

<template>
  <section aria-label="All positions">
    <p v-if="charged" class="border-l-4 border-danger bg-danger-w px-5 py-2 font-semibold">
      Not all of these are proved empty: prove each before a meter or a hand touches it.
      <RouterLink class="underline" :to="sheetOf(sheet.job.id, 'discharge')">How to empty them</RouterLink>
    </p>
    <BoardEntry :key="sheet.job.id" :job-id="sheet.job.id" :names />
    <div class="px-5 pb-8">
      <fieldset class="mt-4 flex flex-wrap items-center gap-x-4">
        <legend class="sr-only">Order</legend>
        <span class="text-small font-semibold text-slate7">First</span>
        <label v-for="known in ORDERS" :key="known.id" class="flex min-h-11 items-center gap-2">
          <input v-model="order" type="radio" name="order" class="size-4 accent-ochre" :value="known.id" />
          {{ known.title }}
        </label>
        <button class="ml-auto min-h-11 underline underline-offset-4" type="button" @click="billing = true">
          Bill of materials
        </button>
      </fieldset>
      <WaitingShape :when="!board && !error" :rows="5" />
      <ProblemNote v-if="error" :sentence="error.message" />
      <p v-else-if="board && !rows.length" class="py-3">
        No position yet. Type what is printed on the first part, Tab, what it reads, Enter.
      </p>
      <ul class="border-t border-slate2">
        <li v-for="row in rows" :key="row.id" class="border-b border-slate2">
          <RouterLink
            class="grid items-center gap-x-4 gap-y-1 py-2 hover:bg-sheet sm:grid-cols-[2.5rem_4.5rem_minmax(0,1.3fr)_minmax(0,1fr)_9rem_minmax(0,1.6fr)] max-sm:grid-cols-[2.5rem_minmax(0,1fr)_auto]"
            :to="sheetOf(sheet.job.id, 'assess', row.id)"
          >
            <VerdictMark :word="row.word" />
            <span class="font-mono font-semibold">{{ row.name }}</span>
            <span class="max-sm:col-span-2 max-sm:col-start-2">
              <EggMark v-if="row.provisional" class="mr-1 inline" />{{ row.marking
              }}<template v-if="row.parts">, {{ row.parts }}</template>
              <span class="block text-small text-slate5">{{ row.role_title }}</span>
            </span>
            <span class="max-sm:col-start-3 max-sm:row-start-1 max-sm:text-right">
              <span v-if="row.reading" class="font-mono text-lead font-medium"
                >{{ row.reading.number }}
                <span class="text-base font-light text-slate5">{{ row.reading.unit }}</span></span
              >
              <span v-else class="text-slate5">not read</span>
              <span class="block text-small text-slate5"
                >{{ row.interval
                }}<template v-if="!row.reading">marked <FigureSum :figures="row.marked" size="line" /></template
              ></span>
            </span>
            <WindowBar class="max-sm:hidden" :bar="row.bar" />
            <span class="text-small max-sm:col-span-2 max-sm:col-start-2"
              ><span class="font-semibold">{{ VERDICTS[row.word].title }}.</span> {{ row.sentence
              }}<span v-if="row.differs" class="block font-semibold text-ochre-text">judged otherwise now</span></span
            >
          </RouterLink>
        </li>
      </ul>
    </div>
    <BillDialog v-if="billing" :job-id="sheet.job.id" @close="billing = false" />
  </section>
</template>
