<script setup lang="ts" generic="Saved">
import type { Asks } from '@/api/may'
import type { Writer } from '@/api/write'
import ActionButton from './ActionButton.vue'
import EditForm from './EditForm.vue'
import ModalDialog from './ModalDialog.vue'
import type { Draft, FieldSpec } from './fields'

/** A form in a dialog; closes when it is saved. */
defineProps<{
  title: string
  fields: FieldSpec[]
  start: Draft
  writer: Writer<Draft, Saved>
  submit?: string
  wide?: boolean
  asks?: Asks
}>()
const emit = defineEmits<{ close: []; saved: [saved: Saved] }>()
function done(saved: Saved) {
  emit('saved', saved)
  emit('close')
}
function leave(drop: () => void) {
  drop()
  emit('close')
}
</script>

<template>
  <ModalDialog :title :wide @close="emit('close')">
    <EditForm
      class="mt-4"
      focus
      :fields
      :start
      :writer
      :asks
      :submit="submit ?? (start.id ? 'Save' : 'Add it')"
      @saved="done"
    >
      <template v-for="spec in fields" :key="spec.name" #[spec.name]="{ draft }">
        <slot :name="spec.name" :draft />
      </template>
      <template #buttons="{ drop, half }">
        <ActionButton @click="leave(drop)">{{ half ? 'Throw it away' : 'Close' }}</ActionButton>
      </template>
    </EditForm>
  </ModalDialog>
</template>
