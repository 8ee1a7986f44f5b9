<script setup lang="ts">
import SupplyBench from './SupplyBench.vue'
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Supply bench</h1>
    <p class="mt-1 mb-4 max-w-prose text-slate7">
      A transformer, a rectifier and a reservoir. Type a larger one to see what it does to the rectifier.
    </p>
    <SupplyBench />
  </main>
</template>
