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
    <p v-if="marking.alternatives.length" class="mt-1 font-semibold text-ochre-text">
      May also be {{ marking.alternatives.join(' or ') }}. Type it the way you mean it.
    </p>
  </div>
</template>
