<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/app/shortcuts'
import { useWant } from '@/features/buying/queries'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import ReasonAside from '@/ui/ReasonAside.vue'
import StageSheet from '@/ui/StageSheet.vue'
import TextField from '@/ui/TextField.vue'
import CandidateRow from './CandidateRow.vue'
import ChosenNote from './ChosenNote.vue'
import CombinationList from './CombinationList.vue'
import OtherWays from './OtherWays.vue'
import OutlineDrawing from './OutlineDrawing.vue'
import OverridePanel from './OverridePanel.vue'
import SignList from './SignList.vue'
import { moreCandidates, useCandidates, useChoose, useTakeOut } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** Which part may take the place, best first; the others stand under them with their reasons; and the other ways to fill it. */
const { position } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: found, error } = useCandidates(position?.id ?? '', position !== undefined)
const { write: choose, pending, at, general } = useChoose(position?.id ?? '')
const SHOWN = 12
const BEST = 8
const all = ref(false)
const every = ref(false)
const further = ref<Schemas['CandidateOut'][]>([])
const words = ref('')
const left = ref(0)
watch(found, (now) => ([further.value, left.value] = [[], now?.more ?? 0]))
const every_one = computed(() => [...(found.value?.accepted ?? []), ...further.value])
const accepted = computed(() => (every.value ? every_one.value : every_one.value.slice(0, BEST)))
async function more() {
  if (!position) return
  const next = await moreCandidates(position.id, every_one.value.length, '')
  further.value = [...further.value, ...next.accepted]
  left.value = next.more
}
const answering = ref<Schemas['CandidateOut'][]>()
async function search() {
  if (!position) return
  answering.value = words.value ? (await moreCandidates(position.id, 0, words.value)).accepted : undefined
}
const picked = ref<string>()
const candidate = computed(
  () =>
    [...every_one.value, ...(answering.value ?? [])].find((c) => c.part.id === picked.value) ??
    found.value?.accepted[0],
)
const refused = computed(() => (all.value ? found.value?.rejected : found.value?.rejected.slice(0, SHOWN)) ?? [])
const taken = computed(
  () => found.value?.choice?.way === 'single' && candidate.value?.part.id === found.value.choice.part_id,
)
const answer = reactive({ signed: [] as string[], bleeder: '', series: '' })
watch(
  () => candidate.value?.part.id,
  () => Object.assign(answer, { signed: [], bleeder: '', series: '' }),
)
const take = () => candidate.value && !taken.value && choose({ part_id: candidate.value.part.id, ...answer })
useShortcuts({ t: () => void take() })
const { write: takeOut, pending: taking, general: notTaken } = useTakeOut(position?.id ?? '')
const { write: want, pending: wanting, general: notWanted } = useWant()
const listed = ref(false)
async function list() {
  if (!candidate.value || !position) return
  const part = { part_id: candidate.value.part.id, position_id: position.id }
  listed.value = Boolean(await want({ ...part, quantity: 1, needed_by: null, only_this: false }))
}
const reasons = computed(() => {
  if (!candidate.value) return []
  const { reasons: why, adaptations, conditions, consequences } = candidate.value
  return [...adaptations, ...conditions, ...consequences, ...why].map((sentence) => ({ sentence }))
})
</script>

<template>
  <StageSheet label="Replace" :position>
    <WaitingShape :when="!found && !error" :rows="5" />
    <template v-if="found && position">
      <h2 class="text-title font-semibold">{{ position.name }} asks for {{ found.need.join(', ') }}</h2>
      <p v-if="found.not_compared" class="mt-1 text-small text-slate5">{{ found.not_compared }}</p>
      <ChosenNote v-if="found.choice" :choice="found.choice" :pending="taking" @take-out="takeOut(null)" />
      <ProblemNote class="mt-2" :sentence="notTaken || notWanted" />
      <ul class="mt-4" aria-label="May take the place, best first">
        <CandidateRow
          v-for="(row, index) in accepted"
          :key="row.part.id"
          :candidate="row"
          :place="index + 1"
          :picked="row.part.id === candidate?.part.id"
          @pick="picked = row.part.id"
        />
      </ul>
      <p v-if="found.why_first" class="mt-2 text-small text-slate5">{{ found.why_first }}</p>
      <button v-if="every_one.length > accepted.length" class="mt-2 min-h-11 underline" @click="every = true">
        Show the other {{ every_one.length - BEST }}
      </button>
      <template v-if="every && (left || found.more)">
        <button v-if="left" class="mt-2 min-h-11 underline" @click="more">
          Show {{ Math.min(left, 30) }} more of {{ left }}
        </button>
        <form class="mt-2 flex max-w-lg items-end gap-3" @submit.prevent="search">
          <TextField
            v-model="words"
            class="grow"
            label="Find among those that may take the place"
            hint="part of its marking"
            mono
          />
          <ActionButton type="submit">Find</ActionButton>
        </form>
        <ul v-if="answering" class="mt-2" aria-label="Found among them">
          <CandidateRow
            v-for="(row, index) in answering"
            :key="row.part.id"
            :candidate="row"
            :place="index + 1"
            :picked="row.part.id === candidate?.part.id"
            @pick="picked = row.part.id"
          />
          <li v-if="!answering.length" class="py-2 text-slate7">None of them is printed so.</li>
        </ul>
      </template>
      <p
        v-if="!found.accepted.length && !found.choice"
        class="mt-3 border-l-[3px] border-ochre bg-sheet px-3 py-2 text-lead font-semibold"
      >
        {{ found.question || 'Nothing in the drawer may take this place.' }}
      </p>
      <SignList
        v-if="candidate && !taken && candidate.to_sign.length"
        v-model:signed="answer.signed"
        v-model:bleeder="answer.bleeder"
        v-model:series="answer.series"
        :to-sign="candidate.to_sign"
        :at
      />
      <ProblemNote class="mt-3" :sentence="general" />
      <div v-if="candidate && !taken" class="mt-4">
        <ActionButton primary hint="t" asks="decide" proposes :disabled="pending" @click="take">
          Take {{ candidate.part.capacitance.map((f) => `${f.number} ${f.unit}`).join(' + ')
          }}{{ candidate.part.place ? ` from ${candidate.part.place}` : '' }}
        </ActionButton>
      </div>
      <div v-if="candidate" class="mt-2 flex flex-wrap items-center gap-x-4">
        <button class="min-h-11 underline underline-offset-2" :disabled="wanting" @click="list">
          Put it on the shopping list{{ candidate.part.quantity ? '' : ': none is there' }}
        </button>
        <RouterLink v-if="listed" class="inline-flex min-h-11 items-center" to="/shopping" role="status"
          >It is on the list, with what else may take the place.</RouterLink
        >
      </div>
      <OutlineDrawing v-if="candidate?.outline" :outline="candidate.outline" />
      <CombinationList :position-id="position.id" :open="!found.accepted.length" />
      <OtherWays
        :position-id="position.id"
        :specification="found.specification"
        :open="!found.accepted.length && !found.choice"
      />
      <OverridePanel :position-id="position.id" :found />
      <h3 class="mt-7 text-small font-semibold text-slate7">Not these</h3>
      <ul aria-label="May not take the place">
        <li
          v-for="row in refused"
          :key="row.part.id"
          class="grid gap-x-4 border-t border-slate2 py-2 sm:grid-cols-[1rem_minmax(0,2fr)_minmax(0,3fr)]"
        >
          <svg viewBox="0 0 16 16" class="mt-1 size-4 max-sm:hidden" aria-hidden="true">
            <path d="M3 14 13 2" class="stroke-danger" stroke-width="2.4" stroke-linecap="round" />
          </svg>
          <span
            >{{ row.part.marking }}<span class="text-slate5">, {{ row.part.kind_title }}</span></span
          >
          <span>
            <span v-for="reason in row.reasons" :key="reason.rule_id" class="block">
              {{ reason.sentence }} <span class="text-small text-slate5">{{ reason.source }}</span>
            </span>
          </span>
        </li>
      </ul>
      <button v-if="!all && found.rejected.length > SHOWN" class="mt-2 min-h-11 underline" @click="all = true">
        Show the other {{ found.rejected.length - SHOWN }}
      </button>
      <p v-if="found.others.length" class="mt-2 text-small text-slate5">
        And of the drawer
        {{ found.others.map((row) => `${row.parts} by: ${row.title.toLowerCase()}`).join('; ') }}.
      </p>
    </template>
    <ProblemNote v-else-if="error" :sentence="error.message" />
    <template #aside
      ><ReasonAside :title="candidate ? 'The part in hand' : found ? 'Nothing in hand' : 'Not known yet'" :reasons
    /></template>
  </StageSheet>
</template>
