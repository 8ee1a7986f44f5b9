<script setup lang="ts">
import { computed, defineAsyncComponent, ref, useTemplateRef, watch, type Component } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { waiting } from '@/api/outbox'
import { asKnownHere, notWithin, useUnsent } from '@/api/unsent'
import { useVocabulary } from '@/api/vocabulary'
import { useShortcuts } from '@/app/shortcuts'
import AssessStage from '@/features/assessment/AssessStage.vue'
import DischargeStage from '@/features/discharge/DischargeStage.vue'
import ProposalList from '@/features/proposals/ProposalList.vue'
import { useProposalsOf } from '@/features/proposals/queries'
import RecordStage from '@/features/record/RecordStage.vue'
import ReplaceStage from '@/features/replacement/ReplaceStage.vue'
import WaitingShape from '@/ui/WaitingShape.vue'
import WorkedHere from '@/ui/WorkedHere.vue'
import ChargeLine from './ChargeLine.vue'
import FromFileNote from './FromFileNote.vue'
import HandOver from './HandOver.vue'
import IntakeStage from './IntakeStage.vue'
import PositionList from './PositionList.vue'
import { useBeat } from './beat'
import { useJob } from './queries'
import { provideJob } from './current'
import TakeBack from './TakeBack.vue'
import UnsettledNote from './UnsettledNote.vue'
import { sheetOf, type Sheet, type Stage } from './stages'

/** A job: its charge line, its positions at the left, the sheet of one stage beside them. */
const { id, stage } = defineProps<{ id: string; stage: Sheet }>()
const FoundStage = defineAsyncComponent(() => import('@/features/asfound/FoundStage.vue'))
const PowerStage = defineAsyncComponent(() => import('@/features/bringup/PowerStage.vue'))
const FitStage = defineAsyncComponent(() => import('@/features/fitting/FitStage.vue'))
const HandbackStage = defineAsyncComponent(() => import('@/features/handback/HandbackStage.vue'))
const BoardSheet = defineAsyncComponent(() => import('@/features/assessment/BoardSheet.vue'))
const PositionForm = defineAsyncComponent(() => import('./PositionForm.vue'))
const SHEETS: Record<Stage, Component> = {
  intake: IntakeStage,
  discharge: DischargeStage,
  found: FoundStage,
  assess: AssessStage,
  replace: ReplaceStage,
  fit: FitStage,
  power: PowerStage,
  handback: HandbackStage,
  record: RecordStage,
}
const LATE: Sheet[] = ['fit', 'power', 'handback', 'record'] // no position is added then
const route = useRoute()
const router = useRouter()
const { data: told, error } = useJob(() => id)
const { unsent, now } = useUnsent()
const sheet = computed(
  () =>
    told.value && {
      ...told.value,
      charge_line: asKnownHere(told.value.charge_line, id, notWithin(told.value, unsent.value), now.value),
    },
)
const unnumbered = computed(() => waiting.value.some((one) => one.begins === id))
provideJob(() => id)
const { data: beat } = useBeat(() => id)
const { data: words } = useVocabulary()
const { data: proposals } = useProposalsOf(id)
const tabs = useTemplateRef('tabs')
const word = useTemplateRef('word')
watch(
  [() => stage, tabs],
  () => tabs.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest', inline: 'center' }),
  { flush: 'post' },
)
const shownStage = computed<Stage>(() => (stage === 'board' ? 'assess' : stage)) // the board is the sheet of all that is assessed
const named = computed(() => words.value?.stages.find((known) => known.id === shownStage.value)?.title ?? '')
watch(
  [sheet, named],
  () => {
    if (sheet.value) document.title = `${sheet.value.job.title}, ${named.value} – Dusky Heron`
  },
  { immediate: true },
)
const form = ref<'add' | 'edit' | null>(null)
const marking = computed(() => (typeof route.query.add === 'string' ? route.query.add : ''))
watch(marking, (typed) => typed && (form.value = 'add'), { immediate: true })

const positions = computed(() => sheet.value?.positions ?? [])
const position = computed(() => positions.value.find((p) => p.id === route.query.position) ?? positions.value[0])
const go = (to: Sheet, chosen = position.value?.id) => void router.push(sheetOf(id, to, chosen))

function step(by: number) {
  const next = positions.value[positions.value.findIndex((p) => p.id === position.value?.id) + by]
  if (next) go(stage, next.id)
}
useShortcuts({
  ...Object.fromEntries(
    Array.from({ length: 9 }, (_, index) => [
      String(index + 1),
      () => {
        const known = words.value?.stages[index]
        if (known) go(known.id)
      },
    ]),
  ),
  n: () => (form.value = 'add'),
  a: () => go('board'),
  ',': () => step(-1),
  '.': () => step(1),
})
function closed() {
  if (!form.value) return
  form.value = null
  if (marking.value) go(stage)
}
function saved(kept: { id: string }) {
  const next = form.value === 'add' ? 'discharge' : stage
  form.value = null
  go(next, kept.id)
}
</script>

<template>
  <main v-if="sheet" :class="beat?.fresh ? 'max-lg:pb-20' : ''">
    <header class="flex flex-wrap items-baseline gap-x-4 px-5 pt-4">
      <h1 class="text-title font-semibold">{{ sheet.job.title }}</h1>
      <p class="text-slate5">
        {{ unnumbered ? 'Its number comes from the server' : `No ${sheet.job.number}` }} ·
        {{ sheet.job.supply_voltage }} {{ sheet.job.supply_frequency }}
        <template v-if="sheet.job.protection_class"> · class {{ sheet.job.protection_class }}</template>
        <template v-if="sheet.job.customer"> · {{ sheet.job.customer }}</template>
      </p>
    </header>
    <WorkedHere class="mx-5 mt-1" :of="sheet" />
    <FromFileNote :job="sheet.job" />
    <ChargeLine class="sticky top-0 z-[5] bg-paper px-5 py-2.5" :items="sheet.charge_line" />
    <ProposalList class="mx-5 mb-2" in-job :proposals />
    <HandOver :key="id" ref="word" :job-id="id" :left="sheet.handed_over" />
    <TakeBack v-if="beat?.fresh" :key="beat.fresh.sequence" :fresh="beat.fresh" />
    <div class="px-5">
      <nav ref="tabs" aria-label="Stages" class="-ml-2 flex overflow-x-auto">
        <RouterLink
          v-for="(known, index) in words?.stages"
          :key="known.id"
          :to="sheetOf(id, known.id, position?.id)"
          class="flex min-h-11 shrink-0 items-center gap-2 border-b-[3px] px-1.5 sm:mr-4 sm:px-2"
          :class="
            known.id === shownStage ? 'border-ochre font-semibold' : 'border-transparent text-slate7 hover:text-ink'
          "
          :aria-current="known.id === shownStage ? 'step' : undefined"
          ><span class="font-mono text-small text-slate5 max-sm:hidden" aria-hidden="true">{{ index + 1 }}</span
          >{{ known.title }}</RouterLink
        >
      </nav>
    </div>
    <BoardSheet v-if="stage === 'board'" class="border-t border-slate2" :sheet @add="form = 'add'" />
    <div v-else class="border-t border-slate2 lg:grid lg:grid-cols-[17rem_minmax(0,1fr)]">
      <PositionList
        class="border-slate2 p-5 lg:min-h-[calc(100dvh-12rem)] lg:border-r"
        :positions
        :chosen="position?.id"
        :late="LATE.includes(stage)"
        @choose="(chosen) => go(stage, chosen)"
        @add="form = 'add'"
        @edit="form = 'edit'"
        @all="go('board')"
        @word="word?.begin()"
      />
      <div class="min-w-0 border-slate2 max-lg:border-t">
        <UnsettledNote v-if="position" :key="position.id" :position />
        <component :is="SHEETS[shownStage]" :key="`${stage} ${position?.id}`" :sheet :position />
      </div>
    </div>
    <PositionForm
      v-if="form && words"
      :job-id="id"
      :roles="words.roles"
      :lead-forms="words.lead_forms"
      :position="form === 'edit' ? position : undefined"
      :marking
      @close="closed"
      @saved="saved"
    />
  </main>
  <main v-else-if="!error" class="px-5 pt-4">
    <h1 class="text-title font-semibold">Job</h1>
    <p class="py-2.5 text-slate5">Charge: not read yet. Take it for full.</p>
    <WaitingShape :when="!error" />
  </main>
  <main v-else class="p-5" role="alert">
    <h1 class="text-title font-semibold">{{ error.message }}</h1>
    <p class="mt-2"><RouterLink class="underline" to="/">Back to the Bench</RouterLink></p>
  </main>
</template>
