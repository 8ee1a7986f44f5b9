<script setup lang="ts">
import { useKept } from '@/api/kept'
import { useNow } from '@vueuse/core'
import { reactive, computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import LinksOff from '@/features/discharge/LinksOff.vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useBeginSoak, useEndSoak } from './queries'
import { typedNumber } from '@/ui/fields'

/** The soak under load: it runs by the server's clock, whether this page is open or not. */
const { found } = defineProps<{ found: Schemas['HandbackOut'] }>()
const { write: begin, pending, at } = useBeginSoak(found.job_id)
const { write: end, problem } = useEndSoak(found.job_id)
const minutes = ref(String(found.soak_minutes))
const note = ref('')
useKept(`soak ${found.job_id} ${found.soak?.started_at ?? ''}`, reactive({ minutes, note }))
const now = useNow({ interval: 1000 })
const runs = computed(() => found.soak && !found.soak.ended)
const left = computed(() => Math.max(0, (new Date(found.soak?.ends_at ?? 0).getTime() - now.value.getTime()) / 1000))
const clock = computed(() => {
  const whole = Math.ceil(left.value)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
})
const start = (links_off = false) => begin({ minutes: typedNumber(minutes.value) || 0, links_off })
</script>

<template>
  <section aria-label="Soak">
    <h2 class="text-small font-semibold text-slate7">Soak under load</h2>
    <template v-if="runs">
      <p class="font-mono text-number font-medium tabular-nums" role="timer">
        {{ left > 0 ? clock : 'over' }}<span v-if="left > 0" class="text-value font-light text-slate5"> to go</span>
      </p>
      <p class="text-small text-slate5">
        {{ found.soak?.minutes }} minutes, begun by {{ found.soak?.by_name }}. Close the page if you must: it runs on.
      </p>
      <TextField v-model="note" class="mt-2" label="Seen, smelt, measured" />
      <div class="mt-3 flex flex-wrap gap-3">
        <ActionButton :primary="left <= 0" @click="end({ held: true, note })">It held</ActionButton>
        <ActionButton @click="end({ held: false, note })">It did not</ActionButton>
        <StrikeLine v-if="found.soak" :sequence="found.soak.sequence" what="this soak" />
      </div>
      <ProblemNote class="mt-2" :sentence="problem?.problem.errors[0]?.sentence ?? problem?.message" />
    </template>
    <template v-else>
      <p v-if="found.soak" class="text-lead" :class="found.soak.held ? 'text-tide' : 'font-semibold text-danger'">
        {{ found.soak.held ? 'Held' : 'Did not hold' }}: {{ found.soak.minutes }} minutes.
        <span class="text-slate7">{{ found.soak.note }}</span>
      </p>
      <form class="mt-2 flex items-end gap-3" novalidate @submit.prevent="start()">
        <TextField v-model="minutes" class="w-28" label="Minutes" mono :error="at('minutes')" />
        <ActionButton type="submit" :disabled="pending">Begin {{ found.soak ? 'again' : 'the soak' }}</ActionButton>
      </form>
      <LinksOff class="mt-2" :asks="at('links_off')" :pending @off="start(true)" />
    </template>
  </section>
</template>
