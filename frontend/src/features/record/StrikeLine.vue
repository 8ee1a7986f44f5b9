<script setup lang="ts">
import { useKept } from '@/api/kept'
import { reactive, nextTick, ref, useTemplateRef } from 'vue'
import ActionButton from '@/ui/ActionButton.vue'
import TextField from '@/ui/TextField.vue'
import { useStrike } from './queries'

/** Strikes one line of the record, wherever it is shown: who wrote it or a lead says why, and both lines stay. */
const { sequence, what } = defineProps<{ sequence: number; what: string }>()
const { write, pending, at, general } = useStrike()
const open = ref(false)
const reason = ref('')
useKept(`strike ${sequence} ${location.pathname}`, reactive({ reason }))
const field = useTemplateRef('field')
async function ask() {
  open.value = true
  await nextTick()
  field.value?.focus()
}
async function send() {
  if (await write({ sequence, reason: reason.value })) {
    open.value = false
    reason.value = ''
  }
}
</script>

<template>
  <button
    v-if="!open"
    type="button"
    class="min-h-11 min-w-11 shrink-0 px-2 text-small underline decoration-slate3 underline-offset-4"
    :aria-label="`Strike ${what}`"
    @click.stop.prevent="ask"
  >
    strike
  </button>
  <form
    v-else
    class="flex w-full flex-wrap items-end gap-3 py-1"
    novalidate
    :aria-label="`Strike ${what}`"
    @submit.prevent="send"
    @keydown.esc.stop="open = false"
  >
    <TextField
      ref="field"
      v-model="reason"
      class="min-w-52 flex-1"
      :label="`Why ${what} is struck`"
      :error="at('reason') || general"
    />
    <ActionButton type="submit" primary :disabled="pending">Strike it</ActionButton>
    <ActionButton @click="open = false">Leave it</ActionButton>
  </form>
</template>
