<script setup lang="ts">
import { sheetOf } from './stages'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import ActionButton from '@/ui/ActionButton.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import JobForm from './JobForm.vue'

const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const { data: words } = useVocabulary()

async function opened(job: Schemas['JobOut']) {
  emit('close')
  await router.push(sheetOf(job.id, 'intake'))
}
function leave(drop: () => void) {
  drop()
  emit('close')
}
</script>

<template>
  <ModalDialog title="New job" wide @close="emit('close')">
    <JobForm v-if="words" v-slot="{ drop, half }" class="mt-4" :words @saved="opened">
      <ActionButton @click="leave(drop)">{{ half ? 'Throw it away' : 'Close' }}</ActionButton>
    </JobForm>
    <button v-else class="mt-4 min-h-11" @click="emit('close')">Close</button>
  </ModalDialog>
</template>
