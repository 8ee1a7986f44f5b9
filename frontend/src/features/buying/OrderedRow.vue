<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useReceive } from './queries'

/** Units on their way, and a line to note what came. */
const { row } = defineProps<{ row: Schemas['OrderedOut'] }>()
const { write: receive, pending, at, general } = useReceive(row.id)
const open = ref(false)
const typed = reactive({ quantity: String(row.quantity - row.received), lot: '', date_code: '' })
const day = (date: string) => new Date(date).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
const send = (closed: boolean) => receive({ ...typed, quantity: Number(typed.quantity) || 0, closed })
</script>

<template>
  <li class="border-t border-slate2 py-2">
    <div class="grid grid-cols-[2.500rem_minmax(0,1fr)_auto] items-start gap-x-3">
      <span class="font-mono text-lead">{{ row.quantity - row.received }}</span>
      <span>
        {{ row.marking }}
        <span class="block text-small text-slate5"
          >{{ row.supplier_name }},
          {{ row.job_number ? `job ${row.job_number}, ${row.position_name}` : 'for the drawer' }},
          <span :class="row.overdue ? 'font-semibold text-ochre-text' : ''"
            >due {{ day(row.due) }}{{ row.overdue ? ', overdue' : '' }}</span
          ></span
        >
      </span>
      <ActionButton :aria-expanded="open" @click="open = !open">It came</ActionButton>
    </div>
    <form v-if="open" class="mt-2 grid grid-cols-3 gap-3" novalidate @submit.prevent="send(false)">
      <TextField v-model="typed.quantity" label="How many" mono :error="at('quantity')" />
      <TextField v-model="typed.lot" label="Lot" mono :error="at('lot')" />
      <TextField v-model="typed.date_code" label="Date code" mono :error="at('date_code')" />
      <div class="col-span-3 flex flex-wrap gap-3">
        <ActionButton primary type="submit" asks="decide" :disabled="pending">Into the drawer</ActionButton>
        <ActionButton asks="decide" :disabled="pending" @click="send(true)">That is all that comes</ActionButton>
      </div>
    </form>
    <ProblemNote class="mt-2" :sentence="general" />
  </li>
</template>
