<script setup lang="ts">
import type { Schemas } from '@/api/client'
import MarkingEcho from '@/features/reading/MarkingEcho.vue'
import EditDialog from '@/ui/EditDialog.vue'
import { fieldsOf, type Draft } from '@/ui/fields'
import { useSavePosition } from './queries'

/** A place that holds a capacitor: its name, what it does, what is printed on its part, and the space there is. */
const { jobId, position, marking, roles, leadForms } = defineProps<{
  jobId: string
  position?: Schemas['PositionOut']
  marking?: string
  roles: Schemas['ChoiceOption'][]
  leadForms: Schemas['ChoiceOption'][]
}>()
const emit = defineEmits<{ close: []; saved: [position: Schemas['PositionOut']] }>()
const leads = [{ id: '', title: 'not noted' }, ...leadForms]
const FIELDS = fieldsOf<Schemas['PositionIn']>({
  name: { label: 'Name, such as C1' },
  role: { label: 'What it does', kind: 'select', options: roles },
  marking: { label: 'What is printed on it', wide: true, mono: true },
  length_mm: { label: 'Space: length, mm', kind: 'number' },
  width_mm: { label: 'Space: width, mm', kind: 'number' },
  height_mm: { label: 'Space: height, mm', kind: 'number' },
  pitch_mm: { label: 'Lead pitch, mm', kind: 'number' },
  other_pitches: { label: 'The board’s other holes, mm', mono: true, hint: 'such as 10, 27.5' },
  lead_form: { label: 'Connected by', kind: 'select', options: leads },
  hot_neighbour: { label: 'A part beside it runs hot', kind: 'check' },
  wet: { label: 'Wet, dusty or medical', kind: 'check' },
})
const start = position ?? { role: 'motor_run', marking }
// A new position takes the role its marking points to, until somebody chooses another.
let suggested = 'motor_run'
function suggest(draft: Draft, read: Schemas['ReadOut']) {
  if (position || !read.likely_role || draft.role !== suggested) return
  draft.role = suggested = read.likely_role
}
const writer = useSavePosition(jobId, FIELDS)
</script>

<template>
  <EditDialog
    :title="position ? `Change ${position.name}` : 'Add a position'"
    :fields="FIELDS"
    :start
    :writer
    @close="emit('close')"
    @saved="emit('saved', $event)"
  >
    <template #marking="{ draft }"
      ><MarkingEcho
        :text="String(draft.marking ?? '')"
        :role="draft.role as Schemas['Role']"
        @read="suggest(draft, $event)"
        @choose="draft.marking = $event"
    /></template>
  </EditDialog>
</template>
