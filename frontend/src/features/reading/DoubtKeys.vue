<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import EggMark from '@/ui/EggMark.vue'

/** What a marking leaves open, the first question of it: each answer has its key, also while the marking is typed. */
const { doubts, silent } = defineProps<{ doubts: Schemas['DoubtOut'][]; silent?: boolean }>()
const emit = defineEmits<{ choose: [text: string] }>()
const KEYS = ['F2', 'F3', 'F4']
const doubt = computed(() => doubts[0])

const root = useTemplateRef('root')
/** Whether a key pressed there is meant for this question: not one behind a dialog, nor one about another field. */
function mine(target: EventTarget | null): boolean {
  const dialog = document.querySelector('[role=dialog]')
  if (dialog && !dialog.contains(root.value)) return false
  const field = target instanceof HTMLElement && target.matches('input, textarea, select') ? target : undefined
  return !field || Boolean(field.closest('[data-reads], form')?.contains(root.value))
}
function press(event: KeyboardEvent) {
  const option = silent ? undefined : doubt.value?.options[KEYS.indexOf(event.key)]
  if (!option || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return
  if (!mine(event.target)) return
  event.preventDefault()
  emit('choose', option.text)
}
onMounted(() => document.addEventListener('keydown', press))
onBeforeUnmount(() => document.removeEventListener('keydown', press))
</script>

<template>
  <div v-if="doubt" ref="root" role="group" aria-label="Not settled" class="border-l-4 border-ochre bg-sheet py-1 pl-3">
    <p class="flex items-center gap-2 font-semibold text-ochre-text"><EggMark />{{ doubt.asks }}</p>
    <div class="mt-1 flex flex-wrap gap-2">
      <button
        v-for="(option, index) in doubt.options"
        :key="option.text"
        type="button"
        class="inline-flex min-h-11 items-center gap-2 rounded-sm border border-ochre bg-paper px-3 text-left"
        :aria-keyshortcuts="silent ? undefined : KEYS[index]"
        :title="option.text"
        @click="emit('choose', option.text)"
      >
        <span class="font-mono">{{ option.says }}</span>
        <kbd
          v-if="!silent"
          class="rounded-xs border border-slate3 px-1.5 font-mono text-small text-slate5 max-sm:hidden"
          aria-hidden="true"
          >{{ KEYS[index] }}</kbd
        >
      </button>
    </div>
    <p v-if="doubts.length > 1" class="mt-1 text-small text-slate5">
      Then {{ doubts.length - 1 === 1 ? 'one more question' : `${doubts.length - 1} more questions` }}.
    </p>
  </div>
</template>
