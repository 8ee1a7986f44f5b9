<script setup lang="ts">
import { useKept } from '@/api/kept'
import { computed, reactive } from 'vue'
import type { Schemas } from '@/api/client'
import OfferPanel from '@/features/buying/OfferPanel.vue'
import ActionButton from '@/ui/ActionButton.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useMove, useMovements } from './queries'
import { typedNumber } from '@/ui/fields'

/** How many there are, why, and one line to put in, take out or count. */
const { part } = defineProps<{ part: Schemas['PartOut'] }>()
const emit = defineEmits<{ close: [] }>()
const { data } = useMovements(part.id)
const { write: move, pending, at, general } = useMove(part.id)
const typed = reactive({ change: '', counted: '', says: '' })
useKept(`moves ${part.id}`, typed)
const now = computed(() => data.value?.part.quantity ?? part.quantity)
const number = (text: string) => typedNumber(text) || 0
const time = (when: string) => new Date(when).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })

async function send() {
  const counted = typed.counted.trim() === '' ? null : number(typed.counted)
  if (await move({ change: number(typed.change), counted, says: typed.says }))
    Object.assign(typed, { change: '', counted: '', says: '' })
}
</script>

<template>
  <ModalDialog :title="part.marking" @close="emit('close')">
    <p class="mt-2">
      <strong class="font-mono text-number font-medium">{{ now }}</strong> in {{ part.place || 'the drawer'
      }}<template v-if="part.lot">, lot {{ part.lot }}</template>
    </p>
    <form class="mt-3 grid gap-3 sm:grid-cols-[7rem_7rem_minmax(0,1fr)]" novalidate @submit.prevent="send">
      <TextField v-model="typed.change" label="In, or out" hint="2 or -2" mono :error="at('change')" />
      <TextField v-model="typed.counted" label="Or counted" mono :error="at('counted')" />
      <TextField v-model="typed.says" label="Why" hint="a job, a return, a find" :error="at('says')" />
      <div class="flex flex-wrap gap-3 sm:col-span-3">
        <ActionButton primary type="submit" :disabled="pending">Write it down</ActionButton>
        <RouterLink
          class="inline-flex min-h-11 items-center underline underline-offset-4"
          :to="`/label/part/${part.id}`"
          >Label</RouterLink
        >
        <ActionButton @click="emit('close')">Close</ActionButton>
      </div>
    </form>
    <ProblemNote class="mt-2" :sentence="general" />
    <OfferPanel :part-id="part.id" />
    <ul class="mt-4" aria-label="Every change">
      <li
        v-for="(row, index) in data?.movements"
        :key="index"
        class="grid grid-cols-[3.5rem_minmax(0,1fr)] border-t border-slate2 py-1.5"
      >
        <span class="font-mono">{{ row.change > 0 ? `+${row.change}` : row.change }}</span>
        <span>
          {{ row.why }}<template v-if="row.says">: {{ row.says }}</template>
          <span class="block text-small text-slate5">{{ row.by_name }}, {{ time(row.at) }}</span>
        </span>
      </li>
    </ul>
  </ModalDialog>
</template>
