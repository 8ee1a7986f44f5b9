<script setup lang="ts" generic="Line">
import type { Entered } from '@/api/lines'

/** Lines that were entered and are not answered yet, and those that were refused: mended by their button, or by Enter in an empty line. */
defineProps<{ entered: Entered<Line>[]; said: (line: Line) => string; begun: boolean }>()
defineEmits<{ mend: [row: Entered<Line>] }>()
</script>

<template>
  <ul v-if="entered.length" class="mt-2" aria-label="Entered">
    <li
      v-for="row in [...entered].reverse()"
      :key="row.key"
      class="flex flex-wrap items-center gap-x-4 border-t border-slate2 py-1"
      :class="row.refused ? 'border-l-4 border-l-danger bg-danger-w px-3' : ''"
    >
      <span class="font-mono">{{ said(row.line) }}</span>
      <template v-if="row.refused">
        <span class="font-semibold" role="alert">{{ row.refused.errors[0]?.sentence ?? row.refused.detail }}</span>
        <button
          class="min-h-11 underline underline-offset-4 disabled:text-slate5 disabled:no-underline"
          type="button"
          :disabled="begun"
          @click="$emit('mend', row)"
        >
          {{ begun ? 'Enter what you type first, then mend it' : 'Mend it' }}
        </button>
      </template>
      <span v-else class="text-small text-slate5">{{ row.sent ? 'noted' : 'saving' }}</span>
    </li>
  </ul>
</template>
