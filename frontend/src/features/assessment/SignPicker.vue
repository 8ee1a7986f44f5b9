<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useWords } from '@/api/words'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useNoteSign } from './queries'

/** What can be seen on the part; each of these condemns it, whatever it measures. */
const { positionId, seen } = defineProps<{ positionId: string; seen: Schemas['SeenOut'][] }>()
const { write, pending, general } = useNoteSign(positionId)
const { data: offered } = useWords()
const isSeen = (sign: string) => seen.some((row) => row.sign === sign)
</script>

<template>
  <fieldset>
    <legend class="text-small font-semibold text-slate7">Seen on it</legend>
    <div class="mt-1 flex flex-wrap gap-2">
      <button
        v-for="sign in offered?.signs"
        :key="sign.id"
        type="button"
        class="min-h-11 rounded-sm border px-3"
        :class="isSeen(sign.id) ? 'border-danger bg-danger-w font-semibold' : 'border-slate3 hover:border-ink'"
        :aria-pressed="isSeen(sign.id)"
        :disabled="pending || isSeen(sign.id)"
        @click="write(sign.id as Schemas['Sign'])"
      >
        {{ sign.title }}
      </button>
    </div>
    <ProblemNote class="mt-2" :sentence="general" />
  </fieldset>
</template>
