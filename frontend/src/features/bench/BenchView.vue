<script setup lang="ts">
import { computed, defineAsyncComponent, ref, useTemplateRef } from 'vue'
import { useInAddress } from '@/app/address'
import { sheetOf } from '@/features/job/stages'
import { waiting } from '@/api/outbox'
import { benchAsKnownHere, useUnsent } from '@/api/unsent'
import { useShortcuts } from '@/app/shortcuts'
import ProposalList from '@/features/proposals/ProposalList.vue'
import { useProposals } from '@/features/proposals/queries'
import { useMe } from '@/features/session/queries'
import ReadingBox from '@/features/reading/ReadingBox.vue'
import ActionButton from '@/ui/ActionButton.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import WaitingShape from '@/ui/WaitingShape.vue'
import BenchRow from './BenchRow.vue'
import { ORDERS, groupsOf } from './order'
import { useBench } from './queries'

const NewJobDialog = defineAsyncComponent(() => import('@/features/job/NewJobDialog.vue'))
const { data: told, error } = useBench()
const { data: me } = useMe()
const { unsent, now } = useUnsent()
const sheets = computed(() => told.value && benchAsKnownHere(told.value, unsent.value, now.value))
const { data: proposals } = useProposals()
const opening = ref(false)
const begun = computed(() =>
  waiting.value.flatMap((one) =>
    one.begins ? [{ id: one.begins, title: (JSON.parse(one.body) as { title: string }).title }] : [],
  ),
)
const BENCHES = [
  { to: '/dropper', title: 'Dropper bench' },
  { to: '/supply', title: 'Supply bench' },
  { to: '/may-replace', title: 'May this replace that?' },
  { to: '/seen-before', title: 'Seen before' },
]
const FEW = 6 // jobs up to which nobody looks for one
const MOST = 150 // rows shown at once
const words = useInAddress('find')
const by = useInAddress('by', 'harm')
const order = computed(() => ORDERS.find((known) => known.id === by.value)?.id ?? 'harm')
const groups = computed(() => groupsOf(sheets.value ?? [], words.value, order.value, MOST, me.value?.name))
const found = computed(() => groups.value.reduce((sum, group) => sum + group.sheets.length + group.more, 0))
const field = useTemplateRef('field')
useShortcuts({ j: () => (opening.value = true), f: () => field.value?.focus() })
</script>

<template>
  <main class="pb-10">
    <h1 class="sr-only">Bench</h1>
    <ReadingBox large class="px-5 pt-6 print:hidden" />
    <div class="mt-5 flex flex-wrap items-end gap-x-4 gap-y-3 px-5">
      <ActionButton primary hint="j" @click="opening = true">New job</ActionButton>
      <template v-if="(sheets?.length ?? 0) > FEW || words">
        <TextField ref="field" v-model="words" class="min-w-40 grow sm:max-w-xs" label="Find a job" />
        <SelectField v-model="by" class="w-44" label="Order" :options="ORDERS" />
        <p class="min-h-6 pb-2.5 text-slate5" role="status">{{ words ? `${found} of ${sheets?.length}` : '' }}</p>
      </template>
    </div>
    <ProposalList class="mx-5 mt-5" :proposals />
    <section v-if="begun.length" class="px-5" aria-label="Begun on this device, not sent yet">
      <h2 class="mt-5 pb-2 text-small font-semibold text-slate7">Begun on this device, not sent yet</h2>
      <ul>
        <li v-for="job in begun" :key="job.id" class="border-y border-slate2 py-1">
          <RouterLink class="flex min-h-11 items-center font-semibold" :to="sheetOf(job.id, 'intake')">{{
            job.title
          }}</RouterLink>
        </li>
      </ul>
    </section>
    <template v-if="sheets?.length">
      <section v-for="group in groups" :key="group.title" :aria-label="group.title">
        <h2 class="mt-5 px-5 pb-2 text-small font-semibold text-slate7">
          {{ group.title }} <span class="font-mono font-normal">{{ group.sheets.length + group.more }}</span>
        </h2>
        <ul class="border-t border-slate2">
          <BenchRow v-for="sheet in group.sheets" :key="sheet.job.id" :sheet />
        </ul>
        <p v-if="group.more" class="px-5 py-2 text-slate5">And {{ group.more }} more: find them by a word.</p>
      </section>
      <p v-if="!found" class="px-5 py-6">
        No open job holds these words.
        <RouterLink class="underline underline-offset-4" :to="{ path: '/seen-before', query: { words } }"
          >Look in those handed back</RouterLink
        >
      </p>
    </template>
    <h2 v-if="!found" class="mt-5 px-5 pb-2 text-small font-semibold text-slate7">Open jobs</h2>
    <p v-if="sheets && !sheets.length" class="border-y border-slate2 px-5 py-6">
      The bench is empty. Open a job for the first piece of equipment, or type a marking above.
    </p>
    <p v-if="error" class="px-5" role="alert">{{ error.message }}</p>
    <WaitingShape class="px-5" :when="!sheets && !error" :rows="6" />
    <div class="flex flex-wrap items-center gap-x-6 gap-y-2 px-5 pt-5 print:hidden">
      <RouterLink
        v-for="bench in BENCHES"
        :key="bench.to"
        class="inline-flex min-h-11 items-center underline decoration-slate3 underline-offset-4"
        :to="bench.to"
        >{{ bench.title }}</RouterLink
      >
    </div>
    <NewJobDialog v-if="opening" @close="opening = false" />
  </main>
</template>
