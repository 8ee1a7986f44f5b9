<script setup lang="ts">
import { onScopeDispose, ref, watch } from 'vue'

/** The shape of what comes, while it is read: rows of a list, or a number with its reasons. Shown only where it takes a while. */
const { when, rows = 0 } = defineProps<{ when: boolean; rows?: number }>()
const SOON_MS = 150 // an answer that comes before shows nothing of it
const shown = ref(false)
let later: ReturnType<typeof setTimeout> | undefined
watch(
  () => when,
  (waits) => {
    clearTimeout(later)
    shown.value = false
    if (waits) later = setTimeout(() => (shown.value = true), SOON_MS)
  },
  { immediate: true },
)
onScopeDispose(() => clearTimeout(later))
</script>

<template>
  <div v-if="when && shown" aria-busy="true" role="status">
    <p class="text-small text-slate5">Reading…</p>
    <div v-for="row in rows" :key="row" class="mt-3 flex gap-4 border-t border-slate2 pt-3" aria-hidden="true">
      <span class="h-5 w-10 rounded-sm bg-slate1" />
      <span class="h-5 grow rounded-sm bg-slate1" />
      <span class="h-5 w-1/4 rounded-sm bg-slate1" />
    </div>
    <div v-if="!rows" aria-hidden="true">
      <div class="mt-3 h-14 w-56 rounded-sm bg-slate1" />
      <div class="mt-4 h-5 w-4/5 max-w-160 rounded-sm bg-slate1" />
      <div class="mt-2 h-5 w-3/5 max-w-120 rounded-sm bg-slate1" />
    </div>
  </div>
</template>
