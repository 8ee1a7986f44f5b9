<script setup lang="ts">
import type { Schemas } from '@/api/client'
import DeliberateButton from '@/ui/DeliberateButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useAcceptFile } from './queries'

/** Of a job that came from another server: whose word it is, and how a lead takes it over. */
const { job } = defineProps<{ job: Schemas['JobOut'] }>()
const { write, general } = useAcceptFile()
</script>

<template>
  <div
    v-if="job.from_file"
    class="mx-5 mt-2 flex flex-wrap items-center gap-x-6 gap-y-2 border-l-4 border-ochre bg-ochre-w px-4 py-2"
  >
    <p>
      <strong class="block font-semibold">Came in a file from another workshop.</strong>
      <span class="text-small">{{
        job.accepted
          ? 'A lead here accepted it.'
          : 'Nothing that was signed or set aside there counts until a lead accepts it here.'
      }}</span>
    </p>
    <DeliberateButton v-if="!job.accepted" @act="write(job.id)">Accept as lead</DeliberateButton>
    <ProblemNote :sentence="general" />
  </div>
</template>
