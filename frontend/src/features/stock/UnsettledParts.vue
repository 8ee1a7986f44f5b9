<script setup lang="ts">
import DoubtKeys from '@/features/reading/DoubtKeys.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useSettlePart, useUnsettled } from './queries'

/** Parts that wait for an answer about what is printed on them; the keys answer for the first. */
const { data: parts } = useUnsettled()
const { write, general, pending } = useSettlePart()
</script>

<template>
  <section v-if="parts?.length" aria-label="To be settled" class="mt-4">
    <h2 class="font-semibold">
      {{ parts.length === 1 ? 'One part waits' : `${parts.length} parts wait` }} for an answer about the marking
    </h2>
    <p class="text-small text-slate7">Until then it takes no place, is not taken out and not bought.</p>
    <ProblemNote :sentence="general" />
    <ul class="mt-2 border-t border-slate2">
      <li
        v-for="(part, index) in parts"
        :key="part.id"
        class="grid gap-x-4 gap-y-1 border-b border-slate2 py-2 lg:grid-cols-[minmax(0,1fr)_minmax(0,2fr)]"
      >
        <span
          ><span class="font-mono">{{ part.marking }}</span>
          <span class="block text-small text-slate5"
            >{{ part.kind_title }}, {{ part.quantity }} in {{ part.place || '–' }}</span
          ></span
        >
        <DoubtKeys :doubts="part.doubts" :silent="index > 0 || pending" @choose="write({ part, text: $event })" />
      </li>
    </ul>
  </section>
</template>
