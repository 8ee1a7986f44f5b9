<script setup lang="ts">
import { computed, reactive, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useKept } from '@/api/kept'
import { useShortcuts } from '@/app/shortcuts'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import StrikeLine from '@/features/record/StrikeLine.vue'
import PinTable from './PinTable.vue'
import WireColours from './WireColours.vue'
import type { Entered } from '@/api/lines'
import EnteredLines from '@/ui/EnteredLines.vue'
import { useAddLines } from './queries'

/** The map of wires, connectors, screws and polarity, a line at a time; Enter keeps it and waits for the next. */
const { jobId, lines, positions } = defineProps<{
  jobId: string
  lines: Schemas['LineOut'][]
  positions: Schemas['SheetPosition'][]
}>()
const typed = reactive({ line: '' })
useKept(`found ${jobId}`, typed)
const problem = ref<Schemas['Problem']>()
const { entered, back, put, mend } = useAddLines(jobId)
const field = useTemplateRef('field')
useShortcuts({ l: () => field.value?.focus() })
const nameOf = (id: string | null) => positions.find((position) => position.id === id)?.name
const at = computed(() => problem.value?.errors.find((error) => error.field === 'text')?.sentence)
const general = computed(() => (at.value ? '' : (problem.value?.detail ?? '')))
function enter() {
  field.value?.focus()
  if (typed.line) {
    put(typed.line)
    typed.line = ''
    problem.value = undefined
  } else if (back.value) takeBack(back.value)
}
/** Back into its field when somebody asks, never into what they are typing. */
function takeBack(row: Entered<string>) {
  typed.line = mend(row.key) ?? ''
  problem.value = row.refused
  field.value?.focus()
}
</script>

<template>
  <section aria-label="Lines">
    <form class="grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_auto]" @submit.prevent="enter">
      <TextField
        ref="field"
        v-model="typed.line"
        label="One line: colour from -> to"
        mono
        hint="grey pump-run -> C1.2 · J3: red black white - (pin by pin, - is empty) · TB1: L=brown N=blue · screws tray 2, 4 × M4 · polarity C4 + up · repair …"
        :error="at"
      />
      <ActionButton class="sm:mt-6" primary type="submit" hint="l">Note it</ActionButton>
    </form>
    <ProblemNote class="mt-2" :sentence="general" />
    <EnteredLines :entered :said="(line) => line" :begun="Boolean(typed.line)" @mend="takeBack" />
    <ul v-if="lines.length" class="mt-4 border-t border-slate2">
      <li
        v-for="line in lines"
        :key="line.id"
        class="flex flex-wrap items-center gap-3 border-b border-slate2 py-1.5"
        :class="line.struck ? 'text-slate5 line-through' : ''"
      >
        <template v-if="line.kind === 'wire'">
          <WireColours :colours="line.colours" />
          <span class="min-w-0 flex-1">
            <span class="text-lead font-semibold">{{ line.colours.join('/') || 'no colour' }}</span>
            {{ ' ' }}{{ line.start }}
            <svg viewBox="0 0 24 10" class="mx-1 inline h-2.5 w-6" role="img" aria-label="to">
              <path d="M1 5h20m-5-4 5 4-5 4" class="fill-none stroke-slate5" stroke-width="1.6" />
            </svg>
            <span class="font-mono">{{ line.end }}</span>
          </span>
        </template>
        <template v-else>
          <span class="w-24 shrink-0 text-small text-slate5">{{ line.title }}</span>
          <span v-if="line.pins.length" class="grid min-w-0 flex-1 gap-1">
            <span class="font-mono text-lead font-semibold">{{ line.name }}</span>
            <PinTable :pins="line.pins" />
          </span>
          <span v-else class="min-w-0 flex-1">{{ line.note }}</span>
        </template>
        <span v-if="nameOf(line.position_id)" class="shrink-0 font-mono text-small text-slate7">{{
          nameOf(line.position_id)
        }}</span>
        <span v-if="line.struck" class="shrink-0 px-2 text-small font-semibold text-slate5">struck</span>
        <StrikeLine v-else :sequence="line.sequence" :what="line.typed" />
      </li>
    </ul>
    <p v-else class="mt-4">Nothing noted yet. One line for each wire, before anything is moved.</p>
  </section>
</template>
