<script setup lang="ts">
import { computed, defineAsyncComponent, ref, useTemplateRef } from 'vue'
import { ProblemError } from '@/api/client'
import { opening } from '@/api/device'
import { useShortcuts } from '@/app/shortcuts'
import WorkedHere from '@/ui/WorkedHere.vue'
import { useReading } from './queries'

/** Type what is printed; the answer stands in place, before any job exists. Opens with / on every screen. */
const { large } = defineProps<{ large?: boolean }>()
// What stands in place once something was typed is fetched when somebody is about to.
const parts = [
  () => import('./ReadingAnswer.vue'),
  () => import('./DoubtKeys.vue'),
  () => import('./ReadTokens.vue'),
] as const
const [ReadingAnswer, DoubtKeys, ReadTokens] = [
  defineAsyncComponent(parts[0]),
  defineAsyncComponent(parts[1]),
  defineAsyncComponent(parts[2]),
]
const ready = () => void Promise.allSettled(parts.map((part) => part()))
const PutDialog = defineAsyncComponent(() => import('./PutDialog.vue'))
const text = ref('')
const putting = ref(false)
const field = useTemplateRef('field')
const { data, error } = useReading(text)
const read = computed(() => (text.value.trim() ? data.value : undefined))
const sentence = computed(() => (text.value.trim() && error.value instanceof ProblemError ? error.value.message : ''))
useShortcuts({ '/': () => field.value?.focus() })

function enter() {
  if (text.value.trim() && !sentence.value) putting.value = true
}
function choose(plain: string) {
  text.value = plain
  field.value?.focus()
}
function leave() {
  text.value = ''
  field.value?.blur()
}
</script>

<template>
  <div class="relative" data-reads :class="large ? 'lg:flex lg:items-start lg:gap-7' : ''">
    <div :class="large ? 'lg:w-[29.500rem] lg:shrink-0' : ''">
      <div
        class="flex items-center gap-3 rounded-sm border bg-sheet px-3 focus-within:outline-2 focus-within:outline-offset-1 focus-within:outline-ochre"
        :class="large ? 'min-h-14 border-ink' : 'min-h-11 border-slate3'"
      >
        <kbd class="rounded-xs border border-slate3 px-1.5 font-mono text-small text-slate5" aria-hidden="true">/</kbd>
        <input
          ref="field"
          v-model="text"
          aria-label="Reading box: what is printed on the capacitor"
          placeholder="Type what is printed on a capacitor"
          autocomplete="off"
          autocapitalize="off"
          spellcheck="false"
          maxlength="300"
          class="w-full bg-transparent py-2 outline-none placeholder:font-sans placeholder:text-base placeholder:text-slate5"
          :class="large ? 'font-mono text-lead' : 'font-mono'"
          @focus.once="ready"
          @keydown.enter.prevent="enter"
          @keydown.escape.prevent="leave"
        />
      </div>
      <div v-if="large" class="mt-2 min-h-5" aria-live="polite">
        <p v-if="sentence" class="text-small text-slate7">{{ sentence }}</p>
        <template v-else-if="read">
          <WorkedHere class="mb-2" :of="read" />
          <DoubtKeys class="mb-2" :doubts="read.marking.doubts" @choose="choose" />
          <ReadTokens :marking="read.marking" />
        </template>
        <WorkedHere v-else-if="opening" :of="undefined" />
        <p v-else class="text-small text-slate5">16 µF ±5 % 450 V~, or µ68 K X2 305~: value, energy, time to empty.</p>
      </div>
    </div>
    <ReadingAnswer v-if="large && read && !sentence" class="mt-4 lg:mt-0.5" :read />
    <div
      v-if="!large && (read || sentence || (opening && text.trim()))"
      class="absolute inset-x-0 top-full z-10 mt-1 border border-slate3 bg-sheet p-4"
      aria-live="polite"
    >
      <p v-if="sentence" class="text-small text-slate7">{{ sentence }}</p>
      <template v-else-if="read">
        <WorkedHere class="mb-3" :of="read" />
        <DoubtKeys class="mb-3" :doubts="read.marking.doubts" @choose="choose" />
        <ReadingAnswer :read />
        <ReadTokens class="mt-3" :marking="read.marking" />
        <p class="mt-3 text-small text-slate5">Enter puts it on a job or looks in the drawer. Escape clears.</p>
      </template>
      <WorkedHere v-else :of="undefined" />
    </div>
    <PutDialog v-if="putting" :text="text.trim()" @close="putting = false" @done="((putting = false), leave())" />
  </div>
</template>
