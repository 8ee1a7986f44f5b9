<script setup lang="ts">
import { watch } from 'vue'
import type { Schemas } from '@/api/client'
import DoubtKeys from './DoubtKeys.vue'
import ReadTokens from './ReadTokens.vue'
import { useReading } from './queries'

/** Under a field for a marking: what it leaves open and what it is read as, while it is typed; in a place where one is said. */
const { text, role } = defineProps<{ text: string; role?: Schemas['Role'] }>()
const emit = defineEmits<{ read: [read: Schemas['ReadOut']]; choose: [text: string] }>()
const { data: read } = useReading(
  () => text,
  () => role,
)
watch(read, (known) => known && emit('read', known))
</script>

<template>
  <div v-if="text.trim() && read" class="mt-2 grid gap-2">
    <DoubtKeys :doubts="read.marking.doubts" @choose="emit('choose', $event)" />
    <ReadTokens :marking="read.marking" />
  </div>
</template>
