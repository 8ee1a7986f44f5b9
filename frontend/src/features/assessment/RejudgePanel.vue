<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import VerdictMark from '@/ui/VerdictMark.vue'
import { VERDICTS } from '@/ui/verdicts'
import { useKeepVerdict, useRecordVerdict } from './queries'

/** The recorded verdict and the one a judgement now comes to, reason by reason; a person takes or keeps. */
const { positionId, known } = defineProps<{ positionId: string; known: Schemas['AssessmentOut'] }>()
const { write: take, pending: taking, general: taken } = useRecordVerdict(positionId)
const { write: keep, pending: keeping, general: kept } = useKeepVerdict(positionId)
const day = (at: string) => new Date(at).toLocaleDateString('en-GB', { dateStyle: 'medium' })
</script>

<template>
  <section v-if="known.recorded" class="mt-4 border-l-4 border-ochre bg-ochre-w px-4 py-3" aria-label="Judged anew">
    <p class="text-lead font-semibold">
      Recorded: {{ VERDICTS[known.recorded.word].title }}. Judged now: {{ VERDICTS[known.verdict.word].title }}.
    </p>
    <p class="text-small text-slate7">
      A marking, a limit or a rule has changed since {{ known.recorded.by_name }}, {{ day(known.recorded.at) }}.
    </p>
    <table class="mt-2 w-full text-left align-baseline">
      <thead class="text-small text-slate7">
        <tr>
          <th class="w-1/2 py-1 pr-4 font-semibold">Recorded</th>
          <th class="py-1 font-semibold">Now</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(change, index) in known.changes" :key="index" class="border-t border-slate3 align-top">
          <td class="py-1.5 pr-4">
            <VerdictMark v-if="change.before_word" :word="change.before_word" class="mr-1 inline" />{{
              change.before || 'nothing said'
            }}
          </td>
          <td class="py-1.5">
            <VerdictMark v-if="change.now_word" :word="change.now_word" class="mr-1 inline" />{{
              change.now || 'nothing said'
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <div class="mt-3 flex flex-wrap gap-3">
      <ActionButton :disabled="taking || keeping" @click="take({})"
        >Take {{ VERDICTS[known.verdict.word].title }}</ActionButton
      >
      <ActionButton :disabled="taking || keeping" @click="keep({})"
        >Keep what is recorded: {{ VERDICTS[known.recorded.word].title }}</ActionButton
      >
    </div>
    <ProblemNote class="mt-2" :sentence="taken || kept" />
  </section>
</template>
