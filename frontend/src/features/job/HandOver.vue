<script setup lang="ts">
import { useKept } from '@/api/kept'
import { nextTick, reactive, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import StrikeLine from '@/features/record/StrikeLine.vue'
import { useHandOver } from './queries'

/** The last word left for whoever goes on with a job, and a field to leave another. */
const { jobId } = defineProps<{ jobId: string; left: Schemas['HandedOut'] | null }>()
const { write, pending, queued, at, general } = useHandOver(jobId)
const typed = reactive({ says: '' })
const { resumed } = useKept(`hand-over ${jobId}`, typed)
const open = ref(resumed !== null)
const when = (moment: string) =>
  new Date(moment).toLocaleString('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' })
const field = useTemplateRef('field')
async function begin() {
  open.value = true
  await nextTick()
  field.value?.focus()
}
defineExpose({ begin })
async function send() {
  if (!(await write({ says: typed.says })) && !queued.value) return
  typed.says = ''
  open.value = false
}
</script>

<template>
  <section v-if="left || open" class="mx-5 mb-1" aria-label="For whoever goes on">
    <p v-if="left" class="w-fit border-l-4 border-tide bg-tide-w px-3 py-1.5">
      <strong class="font-semibold">{{ left.says }}</strong>
      <span class="ml-3 text-small text-slate7">{{ left.by_name }}, {{ when(left.at) }}</span>
      <StrikeLine :key="left.sequence" :sequence="left.sequence" :what="`the word “${left.says}”`" />
    </p>
    <form
      v-if="open"
      class="grid max-w-3xl items-start gap-3 sm:grid-cols-[minmax(0,1fr)_auto_auto]"
      @submit.prevent="send"
    >
      <TextField
        ref="field"
        v-model="typed.says"
        label="For whoever goes on"
        hint="lid is on the shelf, glue sets until four"
        :error="at('says')"
      />
      <ActionButton class="sm:mt-6" type="submit" :disabled="pending">Leave it</ActionButton>
      <ActionButton class="sm:mt-6" @click="open = false">Not now</ActionButton>
    </form>
    <ProblemNote class="mt-1" :sentence="general" />
  </section>
</template>
