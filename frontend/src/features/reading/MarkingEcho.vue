<script setup lang="ts">
import ReadTokens from './ReadTokens.vue'
import { useReading } from './queries'

/** Under a field for a marking: what it is read as, while it is typed. */
const { text } = defineProps<{ text: string }>()
const { data: read } = useReading(() => text)
</script>

<template>
  <ReadTokens v-if="text.trim() && read" class="mt-2" :marking="read.marking" />
</template>
