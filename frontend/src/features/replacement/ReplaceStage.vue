<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useShortcuts } from '@/app/shortcuts'
import { useWant } from '@/features/buying/queries'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import ReasonAside from '@/ui/ReasonAside.vue'
import StageSheet from '@/ui/StageSheet.vue'
import CandidateRow from './CandidateRow.vue'
import CombinationList from './CombinationList.vue'
import OutlineDrawing from './OutlineDrawing.vue'
import OverridePanel from './OverridePanel.vue'
import { useCandidates, useChoose, useTakeOut } from './queries'

/** Which part may take the place, best first; the others stand under them with their reason. */
const { position } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: found, error } = useCandidates(position?.id ?? '', position !== undefined)
const { write: choose, pending, general } = useChoose(position?.id ?? '')
const SHOWN = 12
const BEST = 8
const all = ref(false)
const every = ref(false)
const accepted = computed(() => (every.value ? found.value?.accepted : found.value?.accepted.slice(0, BEST)) ?? [])
const picked = ref<string>()
const candidate = computed(
  () => found.value?.accepted.find((c) => c.part.id === picked.value) ?? found.value?.accepted[0],
)
const refused = computed(() => (all.value ? found.value?.rejected : found.value?.rejected.slice(0, SHOWN)) ?? [])
const taken = computed(() => candidate.value?.part.id === found.value?.choice?.part_id)
const take = () => candidate.value && !taken.value && choose(candidate.value.part.id)
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
const time = (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <StageSheet label="Replace" :position>
    <template v-if="found && position">
      <h2 class="text-title font-semibold">{{ position.name }} asks for {{ found.need.join(', ') }}</h2>
      <p v-if="found.choice" class="mt-3 border-l-[3px] border-tide bg-tide-w px-3 py-2" role="status">
        <strong class="font-semibold">Chosen: {{ found.choice.marking }}</strong
        ><template v-if="found.choice.place">, from drawer {{ found.choice.place }}</template
        >. {{ found.choice.by_name }}, {{ time(found.choice.at) }}.
        <template v-if="found.choice.out_at">
          Out of the drawer{{ found.choice.lot ? `, lot ${found.choice.lot}` : '' }}, {{ time(found.choice.out_at) }}.
        </template>
        <span class="mt-1 flex flex-wrap gap-x-4">
          <button
            v-if="!found.choice.out_at"
            class="min-h-11 underline underline-offset-2"
            :disabled="taking"
            @click="takeOut(null)"
          >
            Take it out of the drawer
          </button>
          <RouterLink
            class="inline-flex min-h-11 items-center underline underline-offset-2"
            :to="`/label/position/${position.id}`"
            >Tag for the removed part</RouterLink
          >
          <StrikeLine :sequence="found.choice.sequence" what="this choice" />
        </span>
      </p>
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
      <button v-if="found.accepted.length > accepted.length" class="mt-2 min-h-11 underline" @click="every = true">
        Show the other {{ found.accepted.length - BEST }}
      </button>
      <p v-if="every && found.more" class="mt-2 text-small text-slate5">
        And {{ found.more }} more that rank behind these.
      </p>
      <p v-if="!found.accepted.length" class="border-l-[3px] border-ochre bg-sheet px-3 py-2 text-lead font-semibold">
        Nothing in the drawer may take this place.
      </p>
      <ProblemNote class="mt-3" :sentence="general" />
      <div v-if="candidate && !taken" class="mt-4">
        <ActionButton primary hint="t" :disabled="pending" @click="take">
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
            {{ row.reasons[0]?.sentence }}
            <span class="text-small text-slate5"
              >{{ row.reasons[0]?.source
              }}<template v-if="row.reasons.length > 1"> and {{ row.reasons.length - 1 }} more</template></span
            >
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
    <template #aside><ReasonAside :title="candidate ? 'The part in hand' : 'Nothing in hand'" :reasons /></template>
  </StageSheet>
</template>
