<script setup lang="ts">
import { watch } from 'vue'
import type { Schemas } from '@/api/client'
import ReadTokens from './ReadTokens.vue'
import { useReading } from './queries'

/** Under a field for a marking: what it is read as, while it is typed. */
const { text } = defineProps<{ text: string }>()
const emit = defineEmits<{ read: [read: Schemas['ReadOut']]; choose: [text: string] }>()
const { data: read } = useReading(() => text)
watch(read, (known) => known && emit('read', known))
</script>

<template>
  <ReadTokens v-if="text.trim() && read" class="mt-2" :marking="read.marking" @choose="emit('choose', $event)" />
</template>
