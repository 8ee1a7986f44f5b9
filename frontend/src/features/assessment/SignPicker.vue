<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import ProblemNote from '@/ui/ProblemNote.vue'
import { VERDICTS } from '@/ui/verdicts'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useNoteSign } from './queries'

/** What can be seen on the part, by what it leads to, whatever the part measures. */
const { positionId, seen } = defineProps<{ positionId: string; seen: Schemas['SeenOut'][] }>()
const { write, pending, general } = useNoteSign(positionId)
const { data: offered } = useVocabulary()
const standing = computed(() => seen.filter((row) => !row.struck))
const isSeen = (sign: Schemas['Sign']) => standing.value.some((row) => row.sign === sign)
const titleOf = (sign: Schemas['Sign']) => offered.value?.signs.find((known) => known.id === sign)?.title ?? sign
const groups = computed(() =>
  (['condemn', 'replace', 'watch'] as const).map((word) => ({
    word,
    signs: (offered.value?.signs ?? []).filter((sign) => sign.word === word),
  })),
)
</script>

<template>
  <fieldset>
    <legend class="text-small font-semibold text-slate7">Seen on it</legend>
    <div
      v-for="group in groups"
      :key="group.word"
      class="mt-1.5 grid gap-x-3 gap-y-1 sm:grid-cols-[6rem_minmax(0,1fr)]"
    >
      <span class="pt-2.5 text-small text-slate5">{{ VERDICTS[group.word].title }}</span>
      <div class="flex flex-wrap gap-2">
        <button
          v-for="sign in group.signs"
          :key="sign.id"
          type="button"
          class="min-h-11 rounded-sm border px-3"
          :class="isSeen(sign.id) ? 'border-danger bg-danger-w font-semibold' : 'border-slate3 hover:border-ink'"
          :title="sign.sentence"
          :aria-pressed="isSeen(sign.id)"
          :disabled="pending || isSeen(sign.id)"
          @click="write(sign.id)"
        >
          {{ sign.title }}
        </button>
      </div>
    </div>
    <ul v-if="seen.length" class="mt-2" aria-label="Signs noted">
      <li v-for="row in seen" :key="row.sequence" class="flex flex-wrap items-center gap-x-3 text-small">
        <span :class="row.struck ? 'text-slate5 line-through' : ''">{{ titleOf(row.sign) }}, {{ row.by_name }}</span>
        <span v-if="row.struck" class="py-3 font-semibold text-slate5">struck</span>
        <StrikeLine v-else :sequence="row.sequence" :what="titleOf(row.sign)" />
      </li>
    </ul>
    <ProblemNote class="mt-2" :sentence="general" />
  </fieldset>
</template>
