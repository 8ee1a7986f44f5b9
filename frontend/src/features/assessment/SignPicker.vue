<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import { VERDICTS } from '@/ui/verdicts'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useNoteSigns } from './queries'

/** What can be seen on the part, by what it leads to, whatever the part measures. */
const { positionId, seen } = defineProps<{ positionId: string; seen: Schemas['SeenOut'][] }>()
const { entered, put, mend } = useNoteSigns(positionId) // pressed one after the other, whatever the network does
const { data: offered } = useVocabulary()
const standing = computed(() => seen.filter((row) => !row.struck))
const onTheirWay = computed(() =>
  entered.value.filter(({ line, refused }) => refused || !standing.value.some((row) => row.sign === line)),
)
const isSeen = (sign: Schemas['Sign']) =>
  standing.value.some((row) => row.sign === sign) || onTheirWay.value.some((row) => row.line === sign && !row.refused)
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
          :disabled="isSeen(sign.id)"
          @click="put(sign.id)"
        >
          {{ sign.title }}
        </button>
      </div>
    </div>
    <ul v-if="seen.length || onTheirWay.length" class="mt-2" aria-label="Signs noted">
      <li v-for="row in seen" :key="row.sequence" class="flex flex-wrap items-center gap-x-3 text-small">
        <span :class="row.struck ? 'text-slate5 line-through' : ''">{{ titleOf(row.sign) }}, {{ row.by_name }}</span>
        <span v-if="row.struck" class="py-3 font-semibold text-slate5">struck</span>
        <StrikeLine v-else :sequence="row.sequence" :what="titleOf(row.sign)" />
      </li>
      <li v-for="row in onTheirWay" :key="row.key" class="flex flex-wrap items-center gap-x-3 text-small">
        <span>{{ titleOf(row.line) }}</span>
        <template v-if="row.refused">
          <span class="font-semibold text-danger" role="alert">
            {{ row.refused.errors[0]?.sentence ?? row.refused.detail }}
          </span>
          <button type="button" class="min-h-11 underline underline-offset-4" @click="mend(row.key)">Let it go</button>
        </template>
        <span v-else class="py-3 text-slate5">saving</span>
      </li>
    </ul>
  </fieldset>
</template>
