<script setup lang="ts">
import type { Schemas } from '@/api/client'
import VerdictMark from '@/ui/VerdictMark.vue'
import { VERDICTS } from '@/ui/verdicts'

/** Which verdicts a change would change, before it is made. */
const { effect } = defineProps<{ effect?: Schemas['EffectOut'] }>()
</script>

<template>
  <div v-if="effect" class="mt-2 border-l-[3px] border-ochre bg-sheet px-3 py-2" role="status">
    <p class="font-semibold">
      {{ effect.rows.length ? `Would change ${effect.rows.length}` : 'Would change none' }} of
      {{ effect.judged }} verdicts.
    </p>
    <ul>
      <li v-for="row in effect.rows" :key="row.position_id" class="flex flex-wrap items-center gap-x-2 py-0.5">
        <span>{{ row.job }}, {{ row.position }}:</span>
        <VerdictMark :word="row.now" /> {{ VERDICTS[row.now].title }}, then <VerdictMark :word="row.then" />
        {{ VERDICTS[row.then].title }}
      </li>
    </ul>
  </div>
</template>
