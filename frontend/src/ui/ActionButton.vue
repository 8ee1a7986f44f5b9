<script setup lang="ts">
/** A button with the key that presses it. The primary one is the next step; there is one on a sheet. */
defineProps<{ primary?: boolean; hint?: string; type?: 'button' | 'submit'; disabled?: boolean }>()
</script>

<template>
  <button
    :type="type ?? 'button'"
    :disabled
    class="inline-flex min-h-11 items-center gap-3 rounded-sm border px-4 py-2 text-left font-semibold disabled:opacity-50"
    :class="primary ? 'border-ink bg-ink text-paper' : 'border-slate3 bg-transparent hover:border-ink'"
  >
    <slot />
    <kbd
      v-if="hint"
      class="rounded-xs border px-1.5 font-mono text-small font-normal max-sm:hidden"
      :class="primary ? 'border-slate5' : 'border-slate3'"
      aria-hidden="true"
      >{{ hint }}</kbd
    >
  </button>
</template>
