<script setup lang="ts">
import { useKept } from '@/api/kept'
import { reactive, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useChoose, useOrderSpecified } from './queries'

/** The place without a part of the drawer: left empty, left as it was, or ordered to what it asks for. */
const { positionId, specification, open } = defineProps<{
  positionId: string
  specification: string[]
  open: boolean
}>()
const { write: choose, pending, at, general } = useChoose(positionId)
const { write: order, pending: ordering, at: orderAt, general: notOrdered } = useOrderSpecified(positionId)
const reason = ref('')
const needed_by = ref('')
useKept(`without ${positionId}`, reactive({ reason, needed_by }))
const copied = ref(false)
async function without(way: Schemas['ChoiceIn']['way']) {
  if (await choose({ way, reason: reason.value })) reason.value = ''
}
async function copy() {
  await navigator.clipboard.writeText(specification.join('\n'))
  copied.value = true
}
</script>

<template>
  <FoldSection title="Without a part of the drawer" says="left empty, left as it was, or ordered" :open>
    <form class="grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_auto_auto]" @submit.prevent="without('removed')">
      <TextField v-model="reason" label="Why it is left empty, or as it was" :error="at('reason')" />
      <ActionButton class="sm:mt-6" type="submit" asks="decide" proposes :disabled="pending"
        >Remove it, leave it empty</ActionButton
      >
      <ActionButton class="sm:mt-6" asks="decide" proposes :disabled="pending" @click="without('left')"
        >Leave it as it was</ActionButton
      >
    </form>
    <ProblemNote class="mt-2" :sentence="general" />
    <h4 class="mt-4 text-small font-semibold text-slate7">What a supplier has to know</h4>
    <ul class="mt-1 border-l-[3px] border-slate3 bg-sheet px-3 py-2" aria-label="Specification">
      <li v-for="line in specification" :key="line">{{ line }}</li>
    </ul>
    <form
      class="mt-2 grid items-start gap-3 sm:grid-cols-[12rem_auto_auto]"
      @submit.prevent="order({ needed_by: needed_by || null })"
    >
      <TextField v-model="needed_by" label="Needed by" type="date" :error="orderAt('needed_by')" />
      <ActionButton class="sm:mt-6" type="submit" asks="decide" :disabled="ordering">Order one to this</ActionButton>
      <ActionButton class="sm:mt-6" @click="copy">{{ copied ? 'Copied' : 'Copy it as text' }}</ActionButton>
    </form>
    <ProblemNote class="mt-2" :sentence="notOrdered" />
  </FoldSection>
</template>
