<script setup lang="ts">
import { computed } from 'vue'
import { useHalfTyped } from '@/api/kept'
import type { Schemas } from '@/api/client'
import ChargeGlyph from '@/ui/ChargeGlyph.vue'
import EnergyMark from '@/ui/EnergyMark.vue'
import { sayCharge } from '@/ui/charge'
import { sheetOf } from '@/features/job/stages'
import { dayFromNow } from './order'

/** One job as a full-width row: what it is, where the work stands, what it waits for, and its charge. */
const { sheet } = defineProps<{ sheet: Schemas['BenchJob'] }>()
const halfTyped = useHalfTyped()
const charge = computed(() => sheet.gravest)
const line = computed(() => {
  const { protection_class: protection, symptom, customer } = sheet.job
  return [customer, protection && `class ${protection}`, symptom].filter(Boolean).join(' · ')
})
/** When it was promised: a day, and whether that is today or over. */
const promised = computed(() => {
  const day = sheet.job.promised_by
  if (!day) return null
  const says = new Date(`${day}T12:00`).toLocaleDateString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
  })
  const late = day < dayFromNow()
  return { late, says: day === dayFromNow() ? 'promised for today' : `promised for ${says}${late ? ': late' : ''}` }
})
</script>

<template>
  <li class="border-b border-slate2">
    <RouterLink
      :to="sheetOf(sheet.job.id, sheet.stage)"
      :class="sheet.may_kill ? 'border-l-danger' : sheet.may_hurt ? 'border-l-ochre' : 'border-l-transparent'"
      class="grid grid-cols-[2.500rem_1fr] items-center gap-x-4 border-l-[5px] px-[0.9375rem] py-3 hover:bg-sheet lg:grid-cols-[3rem_minmax(0,5fr)_minmax(0,2fr)_minmax(0,4fr)_minmax(0,3fr)]"
    >
      <span class="self-start font-mono text-lead text-slate5">{{ sheet.job.number }}</span>
      <span class="min-w-0">
        <span class="block text-lead font-semibold"
          >{{ sheet.job.title
          }}<span v-if="halfTyped(sheet.job.id)" class="ml-3 text-small font-normal text-ochre-text"
            >half typed</span
          ></span
        >
        <span class="block text-small text-slate5">{{ line }}</span>
        <span
          v-if="promised"
          class="block text-small font-semibold"
          :class="promised.late ? 'text-danger' : 'text-ochre-text'"
          >{{ promised.says }}</span
        >
      </span>
      <span class="font-semibold max-lg:col-start-2">{{ sheet.stage_title }}</span>
      <span class="text-slate7 max-lg:col-start-2"
        >{{ sheet.waits_for
        }}<span v-if="sheet.handed_over" class="block text-small text-ink"
          >{{ sheet.handed_over.by_name }}: “{{ sheet.handed_over.says }}”</span
        ><span v-for="says in sheet.proposed" :key="says" class="block text-small font-semibold text-ochre-text"
          >waits for a signature: {{ says }}</span
        ></span
      >
      <span v-if="charge" class="flex items-center gap-3 max-lg:col-start-2 max-lg:mt-1">
        <ChargeGlyph :state="charge.state" />
        <span v-if="charge.energy && charge.mark" class="flex shrink-0 flex-col items-start">
          <EnergyMark :mark="charge.mark" />
          <span class="font-mono text-small whitespace-nowrap"
            >{{ charge.energy.number }} {{ charge.energy.unit }}</span
          >
        </span>
        <span>{{ charge.name }} {{ sayCharge(charge) }}</span>
      </span>
    </RouterLink>
  </li>
</template>
