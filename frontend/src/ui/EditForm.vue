<script setup lang="ts" generic="Saved">
import { computed, onBeforeUnmount, onMounted, reactive, ref, useTemplateRef, watch } from 'vue'
import { useKept } from '@/api/kept'
import type { Writer } from '@/api/write'
import ActionButton from './ActionButton.vue'
import ConflictNote from './ConflictNote.vue'
import ProblemNote from './ProblemNote.vue'
import SelectField from './SelectField.vue'
import TextField from './TextField.vue'
import { sent, type Draft, type FieldSpec } from './fields'

/** A form over a list of fields: sentences at their fields, both versions when two people changed one thing. */
const { fields, start, writer, focus } = defineProps<{
  fields: FieldSpec[]
  start: Draft
  writer: Writer<Draft, Saved>
  submit: string
  focus?: boolean
}>()
const emit = defineEmits<{ saved: [saved: Saved] }>()
const draft = ref<Draft>({ ...start })
const kept = reactive({ typed: {} }) // nothing secret
const name = `form ${location.pathname} ${fields.map((spec) => spec.name).join()} ${String(start.id ?? '')}`
const { forget } = useKept(name, kept)
Object.assign(draft.value, kept.typed)
watch(
  draft,
  (now) => {
    const changed = fields.filter(({ name, kind }) => kind !== 'password' && now[name] !== start[name])
    kept.typed = Object.fromEntries(changed.map(({ name }) => [name, now[name]]))
  },
  { deep: true },
)
onBeforeUnmount(forget) // closed on purpose
const shown = computed(() => fields.filter(({ kind }) => kind !== 'kept'))
const form = useTemplateRef('form')
onMounted(() => focus && form.value?.querySelector<HTMLElement>('input, select, textarea')?.focus())
defineExpose({ draft })

async function save(version?: number) {
  if (version) draft.value.version = version
  const { id, version: known } = draft.value
  const typed = Object.fromEntries(fields.map((spec) => [spec.name, sent(spec, draft.value[spec.name])]))
  const saved = await writer.write({ id, version: known, ...typed })
  if (saved === undefined) return
  forget()
  draft.value = { ...draft.value, ...(saved as Draft) }
  emit('saved', saved)
}
function takeTheirs(theirs: Draft) {
  draft.value = { ...theirs }
  writer.forget()
}
</script>

<template>
  <form ref="form" class="grid grid-cols-2 gap-4" novalidate @submit.prevent="save()">
    <div v-for="spec in shown" :key="spec.name" :class="spec.wide ? 'col-span-2' : 'max-sm:col-span-2'">
      <SelectField
        v-if="spec.kind === 'select' || spec.kind === 'number-select'"
        :model-value="String(draft[spec.name] ?? '')"
        :label="spec.label"
        :options="spec.options ?? []"
        :error="writer.at(spec.name)"
        @update:model-value="draft[spec.name] = $event"
      />
      <label v-else-if="spec.kind === 'check'" class="mt-6 flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          class="size-5 accent-ochre"
          :checked="Boolean(draft[spec.name])"
          @change="draft[spec.name] = ($event.target as HTMLInputElement).checked"
        />
        {{ spec.label }}
      </label>
      <TextField
        v-else
        :model-value="draft[spec.name] as string"
        :label="spec.label"
        :type="spec.kind === 'password' || spec.kind === 'date' ? spec.kind : 'text'"
        :multiline="spec.kind === 'multiline'"
        :autocomplete="spec.kind === 'password' ? 'new-password' : 'off'"
        :mono="spec.mono || spec.kind === 'number'"
        :hint="spec.hint"
        :error="writer.at(spec.name)"
        @update:model-value="draft[spec.name] = $event"
      />
      <slot :name="spec.name" :draft />
    </div>
    <ConflictNote
      class="col-span-2"
      :problem="writer.problem.value"
      :mine="draft"
      :fields
      @keep-mine="save"
      @take-theirs="takeTheirs"
    />
    <ProblemNote class="col-span-2" :sentence="writer.general.value" />
    <div class="col-span-2 flex gap-3">
      <ActionButton primary type="submit" :disabled="writer.pending.value">{{ submit }}</ActionButton>
      <slot name="buttons" />
    </div>
  </form>
</template>
