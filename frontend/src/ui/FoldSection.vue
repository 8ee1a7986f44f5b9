<script setup lang="ts">
/** A part of a sheet that is opened when it is wanted. */
defineProps<{ title: string; says?: string; open?: boolean }>()
</script>

<template>
  <details class="mt-4 border-t border-slate2" :open>
    <summary class="flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-3 py-3">
      <span class="w-3 font-mono text-slate5" aria-hidden="true"
        ><span class="[details[open]>summary_&]:hidden">+</span
        ><span class="hidden [details[open]>summary_&]:inline">−</span></span
      >
      <span class="font-semibold">{{ title }}</span><span v-if="says" class="text-small text-slate5">{{ says }}</span>
    </summary>
    <slot />
  </details>
</template>
