<script setup lang="ts">
import type { Schemas } from '@/api/client'

defineProps<{ candidate: Schemas['CandidateOut']; place: number; picked: boolean }>()
const emit = defineEmits<{ pick: [] }>()
</script>

<template>
  <li class="border-b border-slate2">
    <button
      class="grid w-full grid-cols-[1.500rem_minmax(0,1fr)_auto] gap-x-3 border-l-[3px] px-3 py-3 text-left"
      :class="picked ? 'border-ochre bg-sheet' : 'border-transparent hover:bg-sheet'"
      :aria-pressed="picked"
      @click="emit('pick')"
    >
      <span class="font-mono text-slate5">{{ place }}</span>
      <span>
        <span class="block text-lead font-semibold">{{ candidate.part.marking }}</span>
        <span class="block text-slate7">{{
          [...candidate.conditions, ...candidate.adaptations, ...candidate.reasons].join(' ')
        }}</span>
        <span v-if="candidate.consequences.length" class="block text-small text-slate5">{{
          candidate.consequences.join(' ')
        }}</span>
      </span>
      <span class="text-right">
        <span class="block font-mono">{{ candidate.part.price ?? '–' }}</span>
        <span class="block text-small text-slate5"
          >{{ candidate.part.quantity }} in {{ candidate.part.place || 'the drawer' }}</span
        >
      </span>
    </button>
  </li>
</template>
