<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ProposalRow from './ProposalRow.vue'

/** What waits for a signature, and what was returned. */
defineProps<{ proposals: Schemas['ProposalOut'][] | undefined; inJob?: boolean }>()
</script>

<template>
  <section
    v-if="proposals?.length"
    aria-label="Proposals"
    class="border-l-[6px] border-ochre bg-sheet px-4 print:hidden"
  >
    <ul>
      <ProposalRow v-for="one in proposals" :key="`${one.id} ${one.stands}`" :proposal="one" :in-job="inJob" />
    </ul>
  </section>
</template>
