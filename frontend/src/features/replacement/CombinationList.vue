<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SignList from './SignList.vue'
import { useChoose, useTogether } from './queries'

/** Parts of the drawer that take the place together, what has to be made, and taking them. */
const { positionId, open } = defineProps<{ positionId: string; open: boolean }>()
const { data: combinations } = useTogether(positionId)
const { write: choose, pending, at, general } = useChoose(positionId)
const WAYS: Record<string, string> = {
  parallel: 'in parallel',
  series: 'in series',
  singles: 'a single for each section',
}
const picked = ref<number>()
const answer = reactive({ signed: [] as string[], bleeder: '', series: '' })
function pick(index: number) {
  picked.value = index
  Object.assign(answer, { signed: [], bleeder: '', series: '' })
}
const take = (row: Schemas['CombinationOut']) =>
  choose({
    way: row.way as Schemas['ChoiceIn']['way'],
    part_ids: row.parts.map((part) => part.id),
    ...answer,
  })
</script>

<template>
  <FoldSection v-if="combinations?.length" title="Together" says="two or more parts in the place" :open>
    <ul aria-label="Together">
      <li
        v-for="(row, index) in combinations"
        :key="index"
        class="border-t border-l-[3px] border-t-slate2 py-2 pl-3"
        :class="picked === index ? 'border-l-ochre bg-sheet' : 'border-l-transparent'"
      >
        <div class="flex flex-wrap items-start justify-between gap-x-4">
          <p>
            <strong class="font-mono font-medium">{{
              row.sections.map((f) => `${f.number} ${f.unit}`).join(' + ')
            }}</strong>
            {{ WAYS[row.way] }}, {{ row.spread }} by tolerance<template v-if="row.worst_share"
              >, at worst {{ row.worst_share.number }} {{ row.worst_share.unit }} on one</template
            >
          </p>
          <ActionButton
            v-if="picked !== index"
            :aria-label="`Take these: ${row.parts.map((part) => part.marking).join(' and ')}`"
            asks="decide"
            proposes
            :disabled="pending"
            @click="row.to_sign.length ? pick(index) : (pick(index), take(row))"
            >Take these</ActionButton
          >
        </div>
        <p class="text-slate7">
          {{ row.parts.map((part) => `${part.marking}${part.place ? ` (${part.place})` : ''}`).join(' and ') }}
        </p>
        <p class="text-small text-slate5">{{ row.makes.join(' ') }}</p>
        <template v-if="picked === index">
          <SignList
            v-if="row.to_sign.length"
            v-model:signed="answer.signed"
            v-model:bleeder="answer.bleeder"
            v-model:series="answer.series"
            :to-sign="row.to_sign"
            :at
          />
          <ActionButton
            v-if="row.to_sign.length"
            class="mt-3"
            primary
            asks="decide"
            proposes
            :disabled="pending"
            @click="take(row)"
            >Take them together</ActionButton
          >
          <ProblemNote class="mt-2" :sentence="general" />
        </template>
      </li>
    </ul>
  </FoldSection>
</template>
