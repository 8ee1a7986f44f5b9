<script setup lang="ts">
import { reactive } from 'vue'
import type { Schemas } from '@/api/client'
import { useKept } from '@/api/kept'
import { useShortcuts } from '@/app/shortcuts'
import LinksOff from '@/features/discharge/LinksOff.vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useLogStep } from './queries'
import { typedNumber } from '@/ui/fields'

/** One line for what was read at a step. */
const { found } = defineProps<{ found: Schemas['PowerUpOut'] }>()
const { write, pending, queued, at, general } = useLogStep(found.job_id)
const typed = reactive({
  percent: String(found.next?.percent ?? found.steps[0]?.percent ?? ''), // after a stop from the first step on
  rail: '',
  current: '',
  later: '',
  note: '',
  limiter: found.log.at(-1)?.limiter ?? (found.lamp ? `${found.lamp.watts.number} W lamp` : ''),
})
const { forget } = useKept(`power step ${found.job_id} ${found.log.length}`, typed)
let stop = false
async function send(stopped: boolean, linksOff = false) {
  stop = stopped
  const done = await write({ ...typed, percent: typedNumber(typed.percent) || 0, stopped, links_off: linksOff })
  if (!done && !queued.value) return
  Object.assign(typed, { rail: '', current: '', later: '', note: '' })
  forget()
}
useShortcuts({ r: () => document.querySelector<HTMLElement>('[data-rail] input')?.focus() })
</script>

<template>
  <form
    class="mt-4 grid grid-cols-2 gap-3 sm:grid-cols-3"
    novalidate
    aria-label="What was read"
    @submit.prevent="send(false)"
  >
    <TextField v-model="typed.percent" label="Step, %" mono :error="at('percent')" />
    <TextField v-model="typed.rail" data-rail label="Rail" hint="such as 74 V" mono :error="at('rail')" />
    <TextField v-model="typed.current" label="Current" hint="such as 24 mA" mono :error="at('current')" />
    <TextField v-model="typed.later" label="Current, a little later" mono :error="at('later')" />
    <TextField v-model="typed.limiter" label="Through" :error="at('limiter')" />
    <TextField
      v-model="typed.note"
      :label="found.asks_why ? 'Why it may go on' : 'Seen, smelt, heard'"
      :error="at('note')"
    />
    <div class="col-span-full flex flex-wrap gap-3">
      <ActionButton primary type="submit" hint="r" :disabled="pending">Write the step down</ActionButton>
      <ActionButton :disabled="pending" @click="send(true)">I switched it off</ActionButton>
    </div>
    <LinksOff class="col-span-full" :asks="at('links_off')" :pending @off="send(stop, true)" />
    <ProblemNote class="col-span-full" :sentence="general" />
  </form>
</template>
