<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import { useSeenBefore } from './queries'

/** Earlier jobs on the same model: what failed, at what age, what took its place. */
const { jobId } = defineProps<{ jobId: string }>()
const { data: found } = useSeenBefore(jobId)
const year = (at: string) => new Date(at).getFullYear()
</script>

<template>
  <section v-if="found?.length" aria-label="Same model seen before">
    <h2 class="text-lead font-semibold">
      {{ found.some((job) => job.same) ? 'Same model seen before' : 'A model spelt much like it' }}
    </h2>
    <ul class="mt-1 border-t border-slate2">
      <li v-for="job in found" :key="job.job_id" class="border-b border-slate2 py-2">
        <RouterLink
          :to="sheetOf(job.job_id, 'record')"
          class="inline-flex min-h-11 items-center font-semibold underline decoration-slate3 underline-offset-4"
          >No {{ job.number }}, {{ year(job.opened_at) }}: {{ job.model }}</RouterLink
        >
        <span class="text-slate5"> · {{ job.returned ? 'handed back' : 'on the bench' }}</span>
        <p v-if="job.symptom" class="text-slate7">{{ job.symptom }}</p>
        <p v-for="part in job.failed" :key="part.name" class="mt-1">
          <strong class="font-semibold">{{ part.name }}</strong> {{ part.role }},
          <span class="font-mono">{{ part.marking }}</span><template v-if="part.age">, {{ part.age }} old</template>:
          {{ part.reading }} {{ part.word }}. {{ part.why }}
          <template v-if="part.fixed_with"
            >Mended with <span class="font-mono">{{ part.fixed_with }}</span>.</template
          >
        </p>
        <p v-if="!job.failed.length" class="text-slate5">Nothing was found failed in it.</p>
      </li>
    </ul>
  </section>
</template>
