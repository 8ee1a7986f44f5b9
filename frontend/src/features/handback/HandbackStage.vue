<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import LinksOff from '@/features/discharge/LinksOff.vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import CheckEntry from './CheckEntry.vue'
import CheckRow from './CheckRow.vue'
import PaperRow from './PaperRow.vue'
import QuotePanel from './QuotePanel.vue'
import SoakPanel from './SoakPanel.vue'
import { useAskForFile, useAskForReport, useHandback, useReturn, useTakeBack } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** Proof of the work: the next check, all of them with where they stand, the soak, what it costs, and handing back. */
const { sheet } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: found, error } = useHandback(sheet.job.id)
const { write: giveBack, pending, problem } = useReturn(sheet.job.id)
const linksOn = computed(() => problem.value?.at('links_off'))
const { write: takeBack } = useTakeBack(sheet.job.id)
const typed = computed(() => (found.value?.checks ?? []).filter((check) => check.quantity))
const open = ref<string>()
const next = computed(
  () =>
    typed.value.find((check) => check.id === open.value) ??
    typed.value.find((check) => check.required && check.state !== 'passes' && check.state !== 'signed') ??
    typed.value.find((check) => check.state === 'missing'),
)
const elsewhere = (check: Schemas['ProofCheckOut']) => check.quantity === null // fitting, soak, first power
const day = (at: string) => new Date(at).toLocaleDateString('en-GB', { dateStyle: 'long' })
const report = useAskForReport(sheet.job.id)
const file = useAskForFile(sheet.job.id)
</script>

<template>
  <section class="p-5" aria-label="Hand back">
    <ProblemNote v-if="error" :sentence="error.message" />
    <WaitingShape :when="!found && !error" />
    <div v-if="found" class="grid gap-x-10 gap-y-6 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <div>
        <div v-if="found.returned_at" class="border-l-[6px] border-tide bg-tide-w px-4 py-2" role="status">
          <p class="text-lead font-semibold">Handed back {{ day(found.returned_at) }} by {{ found.returned_by }}.</p>
          <p v-if="found.warranty_until">Warranty until {{ day(found.warranty_until) }}.</p>
          <ActionButton class="mt-2" @click="takeBack({ note: '', links_off: false })">Back on the bench</ActionButton>
        </div>
        <template v-else>
          <p v-if="found.missing.length" class="flex flex-wrap items-baseline gap-x-4">
            <strong class="font-mono text-number font-medium">{{ found.missing.length }}</strong>
            <span class="text-lead">still to settle before it goes back</span>
          </p>
          <div v-else class="flex flex-wrap items-center gap-4 border-l-[6px] border-tide bg-tide-w px-4 py-3">
            <p class="flex-1 text-lead font-semibold" role="status">Every check passed or is signed.</p>
            <ActionButton
              primary
              asks="decide"
              proposes
              :disabled="pending"
              @click="giveBack({ note: '', links_off: false })"
              >Hand it back</ActionButton
            >
          </div>
        </template>
        <CheckEntry v-if="next" :key="`${next.id} ${next.at}`" :check="next" :job-id="sheet.job.id" />
        <ul class="mt-5 border-t border-slate2" aria-label="Checks">
          <CheckRow
            v-for="check in found.checks"
            :key="check.id"
            :check
            :job-id="sheet.job.id"
            :open="check.id === next?.id"
            :elsewhere="elsewhere(check)"
            @choose="open = check.id"
          />
        </ul>
        <p v-if="!found.returned_at && found.missing.length" class="mt-4">
          <ActionButton asks="decide" proposes :disabled="pending" @click="giveBack({ note: '', links_off: false })"
            >Hand it back</ActionButton
          >
        </p>
        <LinksOff class="mt-2" :asks="linksOn" :pending @off="giveBack({ note: '', links_off: true })" />
        <ProblemNote
          v-if="!linksOn"
          class="mt-2"
          :sentence="problem?.problem.errors[0]?.sentence ?? problem?.message"
        />
      </div>
      <div>
        <SoakPanel :found />
        <QuotePanel :job-id="sheet.job.id" />
        <h2 class="mt-6 text-small font-semibold text-slate7">Papers</h2>
        <ul>
          <PaperRow title="Report, PDF" :writer="report" />
          <PaperRow title="Whole job as a file" :writer="file" />
          <li class="border-t border-slate2">
            <a
              href="/api/due.ics"
              target="_blank"
              class="flex min-h-11 items-center underline decoration-slate3 underline-offset-4"
              >Due dates for a calendar</a
            >
          </li>
        </ul>
      </div>
    </div>
  </section>
</template>
