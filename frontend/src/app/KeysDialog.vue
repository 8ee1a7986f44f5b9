<script setup lang="ts">
import { computed } from 'vue'
import { useVocabulary } from '@/api/vocabulary'
import { singleKeys } from './shortcuts'
import ModalDialog from '@/ui/ModalDialog.vue'

const emit = defineEmits<{ close: [] }>()
const { data: words } = useVocabulary()
const groups = computed(() => [
  {
    title: 'Anywhere',
    keys: [
      ['/', 'type a marking'],
      ['b', 'Bench'],
      ['d', 'Drawer'],
      ['m', 'Meters'],
      ['w', 'Workshop'],
      ['g', 'letters beside all that can be reached: they go there; Alt g from a field or a dialog'],
      ['Escape', 'out of a field, so that keys act'],
      ['?', 'these keys'],
    ],
  },
  {
    title: 'On the Bench',
    keys: [
      ['j', 'new job'],
      ['f', 'find a job'],
    ],
  },
  {
    title: 'On a job',
    keys: [
      ['1 … 9', words.value?.stages.map((stage) => stage.title).join(', ') ?? ''],
      ['u', 'take back what was just written'],
      ['a', 'all positions at a glance'],
      ['n', 'add a position'],
      [', and .', 'position before, position after'],
      ['e, e', 'empty it with the first resistor: twice, since it is recorded'],
      ['c', 'change the circuit'],
      ['f', 'log a reading of the fall'],
      ['p', 'prove it'],
      ['space', 'in a proof: below the last digit of the meter'],
      ['r', 'type a reading'],
      ['t', 'take the first part; out of the drawer; tick the next line while fitting'],
      ['v', 'verify the record'],
    ],
  },
])
</script>

<template>
  <ModalDialog title="Keys" @close="emit('close')">
    <section v-for="group in groups" :key="group.title" class="mt-4">
      <h3 class="font-semibold text-slate7">{{ group.title }}</h3>
      <dl class="mt-1 grid grid-cols-[6rem_1fr] gap-y-1">
        <template v-for="[key, means] in group.keys" :key="key">
          <dt class="font-mono">{{ key }}</dt>
          <dd>{{ means }}</dd>
        </template>
      </dl>
    </section>
    <label class="mt-5 flex min-h-11 items-center gap-3">
      <input v-model="singleKeys" type="checkbox" class="size-5" />
      Single keys act on this device, but for ?
    </label>
    <button class="mt-2 min-h-11 rounded-sm border border-slate3 px-4 font-semibold" @click="emit('close')">
      Close
    </button>
  </ModalDialog>
</template>
