<script setup lang="ts">
import { useNow } from '@vueuse/core'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/app/shortcuts'
import { useStrike } from '@/features/record/queries'

/** What was written a moment ago, to be taken back without a word of why: for ten seconds, over the page so that nothing moves. */
const { fresh } = defineProps<{ fresh: Schemas['FreshOut'] }>()
const { write, pending, general } = useStrike()
const now = useNow({ interval: 250 })
const until = Date.now() + fresh.left_s * 1000
const left = computed(() => Math.ceil((until - now.value.getTime()) / 1000))
const takeBack = () => write({ sequence: fresh.sequence, reason: '' })
useShortcuts({ u: () => left.value > 0 && void takeBack() })
</script>

<template>
  <p
    v-if="left > 0"
    class="fixed bottom-3 left-5 z-10 flex max-w-[calc(100vw-2.5rem)] flex-wrap lg:max-w-58 items-center gap-x-3 border border-l-[6px] border-slate3 border-l-ochre bg-sheet px-3 py-1"
    role="status"
  >
    <span class="first-letter:uppercase">{{ fresh.kind }}</span>
    <span v-if="fresh.about" class="text-slate7">{{ fresh.about }}</span>
    <button
      class="inline-flex min-h-11 items-center gap-2 font-semibold underline decoration-slate3 underline-offset-4"
      :disabled="pending"
      @click="takeBack"
    >
      Take it back
      <kbd
        class="rounded-xs border border-slate3 px-1.5 font-mono text-small font-normal max-sm:hidden"
        aria-hidden="true"
        >u</kbd
      >
    </button>
    <span class="font-mono text-small text-slate5" aria-hidden="true">{{ left }} s</span>
    <span v-if="general" class="text-danger">{{ general }}</span>
  </p>
</template>
