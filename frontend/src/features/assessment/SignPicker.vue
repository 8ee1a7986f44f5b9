<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useNoteSign } from './queries'

/** What can be seen on the part; each of these condemns it, whatever it measures. */
const { positionId, seen } = defineProps<{ positionId: string; seen: Schemas['SeenOut'][] }>()
const { write, pending, general } = useNoteSign(positionId)
const SIGNS: { id: Schemas['Sign']; title: string }[] = [
  { id: 'bulged', title: 'can bulged' },
  { id: 'leaking', title: 'leaking' },
  { id: 'burnt', title: 'burnt' },
  { id: 'cracked', title: 'cracked' },
]
const isSeen = (sign: Schemas['Sign']) => seen.some((row) => row.sign === sign)
</script>

<template>
  <fieldset>
    <legend class="text-small font-semibold text-slate7">Seen on it</legend>
    <div class="mt-1 flex flex-wrap gap-2">
      <button
        v-for="sign in SIGNS"
        :key="sign.id"
        type="button"
        class="min-h-11 rounded-sm border px-3"
        :class="isSeen(sign.id) ? 'border-danger bg-danger-w font-semibold' : 'border-slate3 hover:border-ink'"
        :aria-pressed="isSeen(sign.id)"
        :disabled="pending || isSeen(sign.id)"
        @click="write(sign.id)"
      >
        {{ sign.title }}
      </button>
    </div>
    <ProblemNote class="mt-2" :sentence="general" />
  </fieldset>
</template>
