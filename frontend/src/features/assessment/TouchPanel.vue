<script setup lang="ts">
import FigureValue from '@/ui/FigureValue.vue'
import { useTouchCurrent } from './queries'

/** What every Y part of the job together sends through a person when the earth is lost. */
const { jobId } = defineProps<{ jobId: string }>()
const { data: touch } = useTouchCurrent(jobId, true)
</script>

<template>
  <section v-if="touch" class="mt-6 border-t border-slate2 pt-4" aria-label="Touch current">
    <h3 class="text-small font-semibold text-slate7">Touch current, earth lost</h3>
    <p v-if="touch.missing" class="mt-2">{{ touch.missing }}</p>
    <template v-else-if="touch.normal && touch.neutral_open">
      <p class="mt-2 flex flex-wrap gap-x-8 gap-y-2">
        <span
          ><FigureValue :figure="touch.neutral_open" />
          <span class="block text-small text-slate5">neutral open, all together</span></span
        >
        <span
          ><FigureValue :figure="touch.normal" />
          <span class="block text-small text-slate5">normal wiring, the larger side</span></span
        >
      </p>
      <p class="mt-1 text-small text-slate5">
        {{ touch.counted }}, at the top of their tolerance, mains 10 % high; half of them taken on each side.
      </p>
      <ul class="mt-2">
        <li v-for="check in touch.checks" :key="check.id" class="border-t border-slate2 py-2">
          <p :class="check.meets ? '' : 'font-semibold text-danger'">{{ check.sentence }}</p>
          <p class="text-small text-slate5">{{ check.source }}</p>
        </li>
      </ul>
    </template>
  </section>
</template>
