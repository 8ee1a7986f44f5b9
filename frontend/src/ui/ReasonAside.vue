<script setup lang="ts">
/** Why: reasons with their sources, at the right of a sheet. */
defineProps<{ title: string; reasons: { sentence: string; source?: string; grave?: boolean }[] }>()
</script>

<template>
  <aside :aria-label="title">
    <h2 class="text-small font-semibold text-slate7">{{ title }}</h2>
    <ul class="mt-2">
      <li v-for="(reason, index) in reasons" :key="index" class="border-t border-slate2 py-2.5">
        <p :class="reason.grave ? 'font-semibold text-danger' : ''">{{ reason.sentence }}</p>
        <p v-if="reason.source" class="mt-0.5 text-small text-slate5">{{ reason.source }}</p>
      </li>
    </ul>
  </aside>
</template>
