<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useSuppliers } from '@/features/buying/queries'
import { useMeters, useResistors } from '@/features/instruments/queries'
import type { Schemas } from '@/api/client'
import { useWork } from '@/api/work'
import { useMe } from '@/features/session/queries'
import { useAsksFor } from '@/api/may'
import ActionButton from '@/ui/ActionButton.vue'
import EditDialog from '@/ui/EditDialog.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import WorkBar from '@/ui/WorkBar.vue'
import { fieldsOf } from '@/ui/fields'
import CalendarPanel from './CalendarPanel.vue'
import { useLimits, useSchools, useSetTerms, useTakeJob, useTerms } from './queries'

/** What the workshop has and how it works: instruments, suppliers, policy, terms; and a job that comes in as a file. */
const { data: me } = useMe()
const { data: meters } = useMeters()
const { data: resistors } = useResistors()
const { data: suppliers } = useSuppliers()
const { data: limits } = useLimits()
const { data: schools } = useSchools()
const { data: terms } = useTerms()
const setting = useSetTerms()
const other = useAsksFor()('decide')
const { write: take, pending, at, general } = useTakeJob()
const work = useWork<Schemas['JobOut']>()
const router = useRouter()
const changing = ref(false)
const TERMS = fieldsOf<Schemas['TermsEdit']>({
  hourly_rate: { label: 'An hour costs', mono: true },
  tax_percent: { label: 'Tax, %', mono: true },
  currency: { label: 'Currency', hint: 'three letters, such as EUR', mono: true },
  warranty_months: { label: 'Warranty, months', mono: true },
  address: { label: 'Address on papers', wide: true },
  decimal_sign: {
    label: 'Decimal sign in what is typed',
    kind: 'select',
    options: [
      { id: '', title: 'not said: 1,200 is asked about' },
      { id: ',', title: 'comma: 1,200 is one and a fifth' },
      { id: '.', title: 'point: 1,200 is twelve hundred' },
    ],
  },
  second_factor: { label: 'everybody needs a second factor to sign in', kind: 'check', wide: true },
})
const rows = computed(() => [
  {
    title: 'Meters',
    to: '/meters',
    count: meters.value?.length,
    says: `${meters.value?.filter((meter) => meter.overdue).length ?? 0} with their calibration overdue`,
  },
  {
    title: 'Discharge resistors',
    to: '/meters',
    count: resistors.value?.length,
    says: 'what the plans to empty a part choose from',
  },
  { title: 'Suppliers', to: '/shopping', count: suppliers.value?.length, says: 'postage, minimum orders, days' },
  {
    title: 'Limits',
    to: '/policy',
    count: limits.value?.length,
    says: `${limits.value?.filter((limit) => limit.changed).length ?? 0} changed here`,
  },
  {
    title: 'Policy',
    to: '/policy',
    count: schools.value?.length,
    says: `${schools.value?.filter((school) => school.option !== school.default).length ?? 0} questions answered otherwise than usual`,
  },
])
async function takeIn(event: Event) {
  const field = event.target as HTMLInputElement
  const taken = field.files?.[0] && (await take(field.files[0]))
  field.value = ''
  if (taken && 'state' in taken) work.watch(taken)
  else if (taken) await show(taken)
}
const show = (job: Schemas['JobOut']) => router.push(sheetOf(job.id, 'record'))
watch(work.answer, (job) => job && void show(job))
</script>

<template>
  <div>
    <h2 class="text-small font-semibold text-slate7">What it works with</h2>
    <ul class="mt-1 border-t border-slate2">
      <li v-for="row in rows" :key="row.title" class="border-b border-slate2">
        <RouterLink
          :to="row.to"
          class="grid min-h-12 grid-cols-[3.500rem_minmax(0,1fr)] items-baseline gap-x-3 py-1.5 hover:bg-sheet"
        >
          <span class="text-right font-mono text-value">{{ row.count }}</span>
          <span
            ><span class="font-semibold underline decoration-slate3 underline-offset-4">{{ row.title }}</span
            ><span class="block text-small text-slate5">{{ row.says }}</span></span
          >
        </RouterLink>
      </li>
    </ul>
    <template v-if="terms">
      <h2 class="mt-6 text-small font-semibold text-slate7">Terms</h2>
      <p class="mt-1">
        <span class="font-mono text-value">{{ terms.hourly_rate }}</span> {{ terms.currency }} an hour,
        {{ terms.tax_percent }} % tax, warranty {{ terms.warranty_months }} months
      </p>
      <p class="text-slate5">{{ terms.address || 'No address on papers yet.' }}</p>
      <p v-if="terms.second_factor" class="text-slate5">Everybody needs a second factor to sign in.</p>
      <ActionButton v-if="me?.role === 'lead'" class="mt-2" @click="changing = true">Change the terms</ActionButton>
      <EditDialog
        v-if="changing"
        title="Terms"
        :fields="TERMS"
        :start="{ ...terms }"
        :writer="setting"
        submit="Save"
        @close="changing = false"
      />
    </template>
    <h2 class="mt-6 text-small font-semibold text-slate7">A job from another workshop</h2>
    <p class="text-slate7">
      A job’s file, as it was saved there; its record comes whole, or not at all.<template v-if="other">
        It asks for {{ other }}.</template
      >
    </p>
    <input
      type="file"
      accept=".zip,application/zip"
      aria-label="A job’s file"
      class="mt-1 min-h-11 w-full py-2"
      :disabled="pending || Boolean(other)"
      @change="takeIn"
    />
    <WorkBar v-if="work.running.value" :work="work.work.value" what="Its photos" @stop="work.stop()" />
    <ProblemNote class="mt-1" :sentence="at('file') || general || work.sentence.value" />
    <CalendarPanel />
  </div>
</template>
