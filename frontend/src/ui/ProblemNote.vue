<script setup lang="ts">
/** What went wrong, in one sentence, where the eye is. */
defineProps<{ sentence?: string }>()
</script>

<template>
  <p v-if="sentence" role="alert" class="border-l-4 border-danger bg-danger-w px-3 py-2 font-semibold">
    {{ sentence }}
  </p>
</template>
