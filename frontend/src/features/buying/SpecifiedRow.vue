<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useVocabulary } from '@/api/vocabulary'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import SelectField from '@/ui/SelectField.vue'
import TextField from '@/ui/TextField.vue'
import { useCame } from './queries'

/** What a supplier has to know of a part that is wanted to a specification, and a line to note what came. */
const { want } = defineProps<{ want: Schemas['WantOut'] }>()
const { data: vocabulary } = useVocabulary()
const { write: came, pending, at, general } = useCame(want.id)
const open = ref(false)
const typed = reactive({
  marking: '',
  kind: 'film_safety',
  quantity: String(want.left),
  lot: '',
  date_code: '',
  place: '',
})
const send = () =>
  came({
    ...typed,
    kind: typed.kind as Schemas['CameIn']['kind'],
    quantity: Number(typed.quantity) || 0,
    price: null,
  })
</script>

<template>
  <div class="mt-1">
    <p class="text-small text-slate7">{{ want.specification.join('; ') }}</p>
    <ActionButton class="mt-1" :aria-expanded="open" @click="open = !open">It came</ActionButton>
    <form v-if="open" class="mt-2 grid gap-3 sm:grid-cols-3" novalidate @submit.prevent="send">
      <TextField
        v-model="typed.marking"
        class="sm:col-span-2"
        label="What is printed on it"
        mono
        :error="at('marking')"
      />
      <SelectField v-model="typed.kind" label="Made as" :options="vocabulary?.kinds ?? []" :error="at('kind')" />
      <TextField v-model="typed.quantity" label="How many" mono :error="at('quantity')" />
      <TextField v-model="typed.lot" label="Lot" mono :error="at('lot')" />
      <TextField v-model="typed.date_code" label="Date code" mono :error="at('date_code')" />
      <TextField v-model="typed.place" label="Drawer" :error="at('place')" />
      <ActionButton class="sm:mt-6" primary type="submit" asks="decide" :disabled="pending"
        >Into the drawer</ActionButton
      >
    </form>
    <ProblemNote class="mt-2" :sentence="general" />
  </div>
</template>
