<script setup lang="ts">
/** An egg in a broken line: what is printed is not settled yet, and what it waits for is said beside it. */
</script>

<template>
  <svg
    viewBox="0 0 32 32"
    role="img"
    aria-label="not settled"
    class="size-6 shrink-0 text-ochre-text"
    fill="none"
    stroke="currentColor"
    stroke-width="2.4"
    stroke-linecap="round"
  >
    <path d="M16 3.5c6 0 10 8 10 14.5a10 10 0 0 1-20 0c0-6.5 4-14.5 10-14.5Z" stroke-dasharray="6 5" />
    <path d="M16 18v.1" stroke-width="4.5" />
  </svg>
</template>
