<script setup lang="ts" generic="Saved">
import { computed, onMounted, reactive, ref, useTemplateRef, watch } from 'vue'
import { useKept } from '@/api/kept'
import type { Asks } from '@/api/may'
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
  /** What a member must be allowed to send it. */
  asks?: Asks
}>()
const emit = defineEmits<{ saved: [saved: Saved] }>()
const begun = ref<Draft>({ ...start }) // what was changed is told from it
const draft = ref<Draft>({ ...start })
const kept = reactive<{ typed: Draft }>({ typed: {} }) // nothing secret
const name = `form ${location.pathname} ${fields.map((spec) => spec.name).join()} ${String(start.id ?? '')}`
const { resumed, forget } = useKept(name, kept)
const goesOn = ref(resumed)
Object.assign(draft.value, kept.typed)
watch(
  draft,
  (now) => {
    const changed = fields.filter(({ name, kind }) => kind !== 'password' && now[name] !== begun.value[name])
    const typed = Object.fromEntries(changed.map(({ name }) => [name, now[name]]))
    kept.typed = changed.length ? { ...typed, version: now.version } : {} // so that what others changed since is seen
  },
  { deep: true },
)
/** Thrown away on purpose. */
function drop() {
  forget()
  goesOn.value = null
  draft.value = { ...begun.value }
}
const shown = computed(() => fields.filter(({ kind }) => kind !== 'kept'))
const form = useTemplateRef('form')
onMounted(() => focus && form.value?.querySelector<HTMLElement>('input, select, textarea')?.focus())
defineExpose({ draft })

const when = (at: Date) =>
  at.toLocaleString('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' })

async function save(version?: number) {
  if (version) draft.value.version = version
  const { id, version: known } = draft.value
  const typed = Object.fromEntries(fields.map((spec) => [spec.name, sent(spec, draft.value[spec.name])]))
  const saved = await writer.write({ id, version: known, ...typed })
  if (saved === undefined) return
  forget()
  goesOn.value = null
  begun.value = { ...draft.value, ...(saved as Draft) }
  draft.value = { ...begun.value }
  emit('saved', saved)
}
function takeTheirs(theirs: Draft) {
  begun.value = { ...theirs }
  draft.value = { ...theirs }
  goesOn.value = null
  writer.forget()
}
</script>

<template>
  <form ref="form" class="grid grid-cols-2 gap-4" novalidate @submit.prevent="save()">
    <p v-if="goesOn" class="col-span-2 flex flex-wrap items-center gap-x-4 text-small text-ochre-text" role="status">
      Half typed {{ when(goesOn) }}.
      <button type="button" class="min-h-11 font-semibold underline underline-offset-4" @click="drop">
        Start anew
      </button>
    </p>
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
        :grows="spec.kind === 'line'"
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
      <ActionButton primary type="submit" :asks :disabled="writer.pending.value">{{ submit }}</ActionButton>
      <slot name="buttons" :drop :half="Object.keys(kept.typed).length > 0" />
    </div>
  </form>
</template>
