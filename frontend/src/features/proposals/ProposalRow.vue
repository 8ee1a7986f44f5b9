<script setup lang="ts">
import { computed, nextTick, reactive, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useKept } from '@/api/kept'
import { useAsksFor } from '@/api/may'
import { sheetOf } from '@/features/job/stages'
import StrikeLine from '@/features/record/StrikeLine.vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useAnswerProposal } from './queries'

/** One proposal: what would come of it, who asks, and signing it or returning it with a word; or how it was returned. */
const { proposal } = defineProps<{ proposal: Schemas['ProposalOut']; inJob?: boolean }>()
const { write: answer, pending, at, general } = useAnswerProposal(proposal.job_id, proposal.id)
const other = useAsksFor()(proposal.asks)
const STAGES = { choice: 'replace', deviation: 'handback', handback: 'handback' } as const
const evidence = computed(() => sheetOf(proposal.job_id, STAGES[proposal.act], proposal.position_id ?? undefined))
const word = ref('')
const { resumed, forget } = useKept(`word ${proposal.id}`, reactive({ word }))
const returning = ref(resumed !== null)
const field = useTemplateRef('field')
async function give_back() {
  returning.value = true
  await nextTick()
  field.value?.focus()
}
async function send() {
  if (await answer({ signed: false, word: word.value })) forget()
}
</script>

<template>
  <li class="border-t border-slate2 py-2.5 first:border-t-0">
    <div class="flex flex-wrap items-center gap-x-5 gap-y-2">
      <div class="min-w-60 flex-1">
        <p>
          <span v-if="!inJob" class="mr-3 font-mono text-slate5">{{ proposal.job_number }}</span><strong
            class="font-semibold"
            >{{ proposal.says }}</strong
          ><template v-if="!inJob"> · {{ proposal.job_title }}</template>
        </p>
        <p class="text-small text-slate7">
          <template v-if="proposal.stands === 'returned'"
            >{{ proposal.answered_by }} returned it: <strong>{{ proposal.word }}</strong></template
          >
          <template v-else
            >{{ proposal.mine ? 'You proposed it' : `${proposal.by_name} proposes`
            }}<template v-if="proposal.reason">: {{ proposal.reason }}</template
            ><template v-if="other"> · waits for {{ other }}</template></template
          >
        </p>
        <p v-for="condition in proposal.conditions" :key="condition" class="text-small">
          Signed with it: {{ condition }}
        </p>
      </div>
      <RouterLink
        class="inline-flex min-h-11 items-center underline decoration-slate3 underline-offset-4"
        :to="evidence"
        >Look</RouterLink
      >
      <template v-if="proposal.stands === 'open'">
        <template v-if="!other && !returning">
          <ActionButton primary :disabled="pending" @click="answer({ signed: true, word: '' })">Sign it</ActionButton>
          <ActionButton :disabled="pending" @click="give_back">Return it</ActionButton>
        </template>
        <StrikeLine v-if="inJob && proposal.mine" :sequence="proposal.sequence" what="the proposal" />
      </template>
    </div>
    <form v-if="returning" class="mt-2 flex flex-wrap items-end gap-3" novalidate @submit.prevent="send">
      <TextField
        ref="field"
        v-model="word"
        class="min-w-60 flex-1"
        label="What it lacks"
        :error="at('word')"
        @keydown.esc.stop="returning = false"
      />
      <ActionButton type="submit" primary :disabled="pending">Return it with this word</ActionButton>
      <ActionButton @click="returning = false">Leave it</ActionButton>
    </form>
    <ProblemNote class="mt-1" :sentence="general" />
  </li>
</template>
