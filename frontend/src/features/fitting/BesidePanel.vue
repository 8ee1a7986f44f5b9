<script setup lang="ts">
import { useKept } from '@/api/kept'
import { reactive } from 'vue'
import type { Schemas } from '@/api/client'
import StrikeLine from '@/features/record/StrikeLine.vue'
import ActionButton from '@/ui/ActionButton.vue'
import FoldSection from '@/ui/FoldSection.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useBeside, useNoteBeside } from './queries'

/** What is no capacitor and was looked at on the way: checked, with what it read, or replaced, with what went in. */
const { jobId } = defineProps<{ jobId: string }>()
const { data: found } = useBeside(jobId)
const { write: note, pending, at, general } = useNoteBeside(jobId)
const typed = reactive({ what: 'fuse', says: '' })
useKept(`beside ${jobId}`, typed)
async function send(replaced: boolean) {
  if (await note({ what: typed.what as Schemas['BesideIn']['what'], says: typed.says, replaced })) typed.says = ''
}
</script>

<template>
  <FoldSection
    v-if="found"
    class="max-w-3xl px-5"
    title="Fuse, bleeder, bridge, switch"
    :says="found.rows.length ? found.rows.map((row) => row.title).join(', ') : 'checked or replaced on the way'"
  >
    <ul aria-label="Checked or replaced">
      <li v-for="row in found.rows" :key="row.sequence" class="border-t border-slate2 py-2">
        <strong class="font-semibold">{{ row.title }} {{ row.replaced ? 'replaced' : 'checked' }}</strong
        >: {{ row.says }}
        <span class="text-small text-slate5">{{ row.by_name }}</span>
        <StrikeLine :sequence="row.sequence" :what="row.title" />
      </li>
    </ul>
    <form
      class="mt-2 grid items-start gap-3 sm:grid-cols-[13rem_minmax(0,1fr)_auto_auto]"
      @submit.prevent="send(false)"
    >
      <SelectField v-model="typed.what" label="What" :options="found.kinds" :error="at('what')" />
      <TextField
        v-model="typed.says"
        label="It read, or what went in"
        hint="0.3 Ω, or T 2 A 250 V"
        :error="at('says')"
      />
      <ActionButton class="sm:mt-6" type="submit" :disabled="pending">Checked</ActionButton>
      <ActionButton class="sm:mt-6" :disabled="pending" @click="send(true)">Replaced</ActionButton>
    </form>
    <ProblemNote class="mt-2" :sentence="general" />
  </FoldSection>
</template>
