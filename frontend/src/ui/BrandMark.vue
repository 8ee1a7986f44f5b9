<template>
  <svg viewBox="0 0 24 24" class="size-6 shrink-0" aria-hidden="true">
    <path
      d="M8 22c5.500-1 8-5.500 6.500-9.500-1-3-4.500-3-4-6.500.3-2 2-3.200 4-3"
      fill="none"
      stroke="currentColor"
      stroke-width="2.600"
      stroke-linecap="round"
    />
    <path d="m14 1.800 8 2.400-8 1.300z" class="fill-ochre" />
  </svg>
</template>
