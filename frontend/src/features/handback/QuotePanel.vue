<script setup lang="ts">
import { ref, watch } from 'vue'
import ActionButton from '@/ui/ActionButton.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useQuote, useWriteQuote } from './queries'

/** What it costs: lines, minutes, and the sum with tax. */
const { jobId } = defineProps<{ jobId: string }>()
const { data: quote } = useQuote(jobId)
const { write, pending, problem } = useWriteQuote(jobId)
interface Line {
  text: string
  quantity: string
  each: string
}
const lines = ref<Line[]>([])
const minutes = ref('')
const plain = (amount: string | number) => String(amount).trim()
watch(
  () => quote.value?.version,
  () => {
    lines.value = (quote.value?.lines ?? []).map((line) => ({
      ...line,
      quantity: `${Number(line.quantity)}`,
      each: `${line.each}`,
    }))
    minutes.value = quote.value ? String(quote.value.minutes) : ''
  },
  { immediate: true },
)
/** Whole minutes as a number; anything else as typed, for the server to ask about. */
const whole = (typed: string) => (/^\d*$/.test(plain(typed)) ? Number(plain(typed)) : (plain(typed) as never))
const send = () =>
  write({
    version: quote.value?.version ?? 0,
    minutes: whole(minutes.value),
    lines: lines.value.map((line) => ({
      ...line,
      quantity: plain(line.quantity),
      each: plain(line.each),
    })),
  })
</script>

<template>
  <section v-if="quote" class="mt-6" aria-label="Price">
    <h2 class="text-small font-semibold text-slate7">
      {{ quote.credit ? 'Credit note: what the customer gets back' : 'Price' }}, with {{ quote.tax_percent }} % tax{{
        quote.version ? '' : ': not written down yet'
      }}
    </h2>
    <p class="font-mono text-number font-medium">
      {{ quote.credit ? quote.gross.replace('-', '') : quote.gross
      }}<span class="text-value font-light text-slate5">&nbsp;{{ quote.currency }}</span>
    </p>
    <p class="text-small text-slate5">
      {{ quote.net }} and {{ quote.tax }} tax · labour {{ quote.labour }} at {{ quote.hourly_rate }} an hour · warranty
      {{ quote.warranty_months }} months
    </p>
    <p v-if="quote.unpriced.length" class="mt-1 border-l-4 border-ochre bg-ochre-w px-3 py-1">
      Nobody has said what it costs: {{ quote.unpriced.join('; ') }}
    </p>
    <FoldSection title="Quote or invoice" says="parts, minutes">
      <form class="grid gap-3" novalidate @submit.prevent="send">
        <div v-for="(line, index) in lines" :key="index" class="grid grid-cols-[minmax(0,1fr)_4.500rem_6rem] gap-2">
          <TextField v-model="line.text" label="What" />
          <TextField v-model="line.quantity" label="How many" mono />
          <TextField v-model="line.each" label="Each" mono />
        </div>
        <TextField v-model="minutes" class="w-28" label="Minutes" mono :error="problem?.at('minutes')" />
        <div class="flex flex-wrap gap-3">
          <ActionButton type="submit" :disabled="pending">Write it down</ActionButton>
          <ActionButton @click="lines.push({ text: '', quantity: '1', each: '0.00' })">Another line</ActionButton>
        </div>
        <ProblemNote :sentence="problem?.problem.errors[0]?.sentence ?? problem?.message" />
      </form>
    </FoldSection>
  </section>
</template>
