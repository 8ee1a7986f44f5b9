<script setup lang="ts">
import { useKept } from '@/api/kept'
import { reactive, computed, nextTick, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import StrikeLine from '@/features/record/StrikeLine.vue'
import PhotoView from './PhotoView.vue'
import { useMarkPoint } from './queries'

/** A photo with its points: click, or move the cross with the arrow keys and press Enter, then say what is there. */
const { photo, lines, positions } = defineProps<{
  photo: Schemas['PhotoOut']
  lines: Schemas['LineOut'][]
  positions: Schemas['SheetPosition'][]
}>()
const emit = defineEmits<{ close: [] }>()
const { write: mark, pending, at, general } = useMarkPoint(photo.id)
const cross = ref<{ x: number; y: number } | null>(null)
const label = ref('')
const of = ref('')
useKept(`point ${photo.id}`, reactive({ cross, label, of }))
const field = useTemplateRef('field')
const picture = useTemplateRef('picture')
const options = computed(() => [
  { id: '', title: 'nothing in the lists' },
  ...positions.map((position) => ({ id: `position ${position.id}`, title: position.name })),
  ...lines.filter((line) => !line.struck).map((line) => ({ id: `line ${line.id}`, title: line.typed })),
])
const points = computed(() => photo.points.filter((point) => !point.struck))
const named = (point: Schemas['PhotoPointOut']) => {
  const position = positions.find((known) => known.id === point.position_id)?.name
  return position ?? lines.find((known) => known.id === point.line_id)?.typed ?? ''
}
async function place(x: number, y: number) {
  cross.value = { x, y }
  await nextTick()
  field.value?.focus()
}
async function save() {
  if (!cross.value) return
  const [kind, id = null] = of.value.split(' ')
  const shows = { position_id: kind === 'position' ? id : null, line_id: kind === 'line' ? id : null }
  if (!(await mark({ ...cross.value, label: label.value, ...shows }))) return
  label.value = of.value = ''
  cross.value = null
  picture.value?.focus()
}
</script>

<template>
  <ModalDialog :title="photo.caption || 'Photo'" wide @close="emit('close')">
    <PhotoView ref="picture" v-model:cross="cross" :photo :points @place="place" />
    <form
      v-if="cross"
      class="mt-3 grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto]"
      @submit.prevent="save"
    >
      <TextField ref="field" v-model="label" label="What is there" :error="at('label')" />
      <SelectField v-model="of" label="It is" :options :error="at('position_id') || at('line_id')" />
      <ActionButton class="sm:mt-6" primary type="submit" :disabled="pending">Mark it</ActionButton>
    </form>
    <ProblemNote class="mt-2" :sentence="general" />
    <ol v-if="points.length" class="mt-3">
      <li
        v-for="(point, index) in points"
        :key="point.id"
        class="flex flex-wrap items-center gap-3 border-t border-slate2 py-1"
      >
        <span class="w-6 font-mono font-bold text-ochre-text">{{ index + 1 }}</span>
        <span class="flex-1"
          >{{ point.label }}<span v-if="named(point)" class="text-slate5"> · {{ named(point) }}</span></span
        >
        <StrikeLine :sequence="point.sequence" :what="point.label" />
      </li>
    </ol>
    <p v-else-if="!cross" class="mt-2 text-small text-slate5">
      Click where a terminal or a wire is, and say what it is.
    </p>
    <div class="mt-4 flex flex-wrap items-center gap-3">
      <ActionButton @click="emit('close')">Close</ActionButton>
      <StrikeLine v-if="!photo.struck" :sequence="photo.sequence" :what="`photo ${photo.caption}`.trim()" />
    </div>
  </ModalDialog>
</template>
