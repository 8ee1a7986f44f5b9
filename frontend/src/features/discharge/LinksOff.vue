<script setup lang="ts">
import ActionButton from '@/ui/ActionButton.vue'

/** Asked once before power comes or the job goes: the links that are still on. */
defineProps<{ asks?: string; pending: boolean }>()
const emit = defineEmits<{ off: [] }>()
</script>

<template>
  <div v-if="asks" role="alert" class="border-l-4 border-ochre bg-ochre-w px-4 py-3">
    <p class="font-semibold">{{ asks }}</p>
    <ActionButton class="mt-2" :disabled="pending" @click="emit('off')">Every link is off</ActionButton>
  </div>
</template>
