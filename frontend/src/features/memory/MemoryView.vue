<script setup lang="ts">
import { sheetOf } from '@/features/job/stages'
import { useInAddress } from '@/app/address'
import { refDebounced } from '@vueuse/core'
import { computed, onMounted, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import SurvivalPlot from './SurvivalPlot.vue'
import { useFailures, useReturned, useSearch } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** What the workshop remembers: words in every record, what failed at which age, and what went back. */
const words = useInAddress('words')
const asked = refDebounced(words, 150)
const BY = [
  { id: 'role', title: 'what it does' },
  { id: 'class', title: 'safety class' },
  { id: 'kind', title: 'dielectric' },
]
const grouped = useInAddress('by', 'role')
const by = computed(() => (BY.find((known) => known.id === grouped.value)?.id ?? 'role') as Schemas['GroupBy'])
const { data: hits, error } = useSearch(asked)
const { data: groups } = useFailures(by)
const { data: returned } = useReturned()
const day = (at: string) => new Date(at).toLocaleDateString('en-GB', { dateStyle: 'medium' })
const field = useTemplateRef('field')
onMounted(() => field.value?.focus())
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Seen before</h1>
    <TextField
      ref="field"
      v-model="words"
      class="mt-3 max-w-xl"
      label="Words, makers, markings, names in every record"
      hint="beginnings will do: harkw rs"
    />
    <p v-if="error" class="mt-2" role="alert">{{ error.message }}</p>
    <ul v-if="words && hits" class="mt-3 max-w-4xl border-t border-slate2" aria-label="Found">
      <li v-for="(hit, index) in hits" :key="index" class="border-b border-slate2">
        <RouterLink :to="sheetOf(hit.job_id, 'record')" class="block px-1 py-2 hover:bg-sheet">
          <strong class="font-semibold">No {{ hit.number }} {{ hit.title }}</strong> · {{ hit.kind }}
          <span class="text-slate5">
            {{ hit.by_name }}<template v-if="hit.at">, {{ day(hit.at) }}</template></span
          >
          <span class="block break-words text-slate7">{{ hit.says }}</span>
        </RouterLink>
      </li>
      <li v-if="!hits.length" class="py-2">No entry holds all of these.</li>
    </ul>
    <div class="mt-8 grid gap-x-12 gap-y-8 lg:grid-cols-2">
      <section aria-label="What failed">
        <div class="flex flex-wrap items-end justify-between gap-3">
          <h2 class="text-lead font-semibold">What failed</h2>
          <SelectField v-model="grouped" class="w-44" label="Put together by" :options="BY" />
        </div>
        <WaitingShape class="mt-2" :when="!groups && !error" :rows="4" />
        <ul class="mt-2 border-t border-slate2">
          <li v-for="group in groups" :key="group.title" class="border-b border-slate2 py-2.5">
            <p class="flex flex-wrap items-baseline gap-x-3">
              <strong class="font-mono text-value font-medium">{{ group.failed }}</strong>
              <span
                >of {{ group.looked_at }} <strong class="font-semibold">{{ group.title }}</strong></span
              >
              <span v-if="group.median" class="text-slate5">half by {{ group.median }}</span>
            </p>
            <SurvivalPlot v-if="group.steps.length" :steps="group.steps" :title="group.title" />
            <p class="text-small" :class="group.steps.length ? '' : 'text-slate5'">{{ group.says }}</p>
          </li>
          <li v-if="groups && !groups.length" class="py-2">No part was judged yet.</li>
        </ul>
      </section>
      <section aria-label="Handed back">
        <h2 class="text-lead font-semibold">Handed back</h2>
        <ul class="mt-2 border-t border-slate2">
          <li v-for="one in returned" :key="one.job.id" class="border-b border-slate2">
            <RouterLink :to="sheetOf(one.job.id, 'handback')" class="block px-1 py-2 hover:bg-sheet">
              <strong class="font-semibold">No {{ one.job.number }} {{ one.job.title }}</strong>
              <span class="block text-slate5"
                >{{ day(one.returned_at) }} by {{ one.by_name
                }}<template v-if="one.warranty_until"> · warranty until {{ day(one.warranty_until) }}</template></span
              >
            </RouterLink>
          </li>
          <li v-if="returned && !returned.length" class="py-2 text-slate5">
            Nothing yet: a job goes back from its Hand back stage.
          </li>
        </ul>
      </section>
    </div>
  </main>
</template>
