<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** Each piece of the typed text and what it became; what was assumed; what could not be read. */
defineProps<{ marking: Schemas['MarkingOut'] }>()
</script>

<template>
  <div class="text-small">
    <ul class="flex flex-wrap gap-x-3 gap-y-0.5" aria-label="What each piece was read as">
      <li v-for="(token, index) in marking.tokens" :key="index">
        <span class="font-mono">{{ token.text }}</span> <span class="text-slate5">{{ token.meaning }}</span>
      </li>
      <li v-if="marking.unread" class="font-semibold text-ochre-text">not read: {{ marking.unread }}</li>
    </ul>
    <p v-for="said in marking.assumptions" :key="said" class="mt-1 text-slate7">{{ said }}</p>
    <p v-if="marking.dates.length > 1" class="mt-1 text-slate7">Made {{ marking.dates.slice(0, 3).join('; or ') }}.</p>
  </div>
</template>
