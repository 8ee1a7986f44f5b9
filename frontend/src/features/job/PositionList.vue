<script setup lang="ts">
import { computed, ref } from 'vue'
import { useHalfTyped } from '@/api/kept'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import EggMark from '@/ui/EggMark.vue'
import VerdictMark from '@/ui/VerdictMark.vue'

/** The positions of a job; the chosen one is what the sheet is about. Late in the work a phone offers no other positions. */
const { positions, chosen } = defineProps<{ positions: Schemas['SheetPosition'][]; chosen?: string; late: boolean }>()
const chosenPosition = computed(() => positions.find((position) => position.id === chosen))
const halfTyped = useHalfTyped()
const more = ref(false) // on a phone the buttons stand behind one
const emit = defineEmits<{ choose: [id: string]; add: []; edit: []; all: []; word: [] }>()
</script>

<template>
  <nav aria-label="Positions">
    <h2 class="text-small font-semibold text-slate7 max-lg:sr-only">Positions</h2>
    <ul class="flex gap-1 overflow-x-auto lg:mt-2 lg:block">
      <li v-for="position in positions" :key="position.id" class="shrink-0">
        <button
          class="flex min-h-11 w-full items-start gap-2 border-l-[3px] py-2.5 pr-2 pl-3 text-left"
          :class="position.id === chosen ? 'border-ochre bg-sheet' : 'border-transparent hover:bg-sheet'"
          :aria-current="position.id === chosen ? 'true' : undefined"
          @click="emit('choose', position.id)"
        >
          <span class="shrink-0 font-mono font-semibold lg:w-9">{{ position.name }}</span>
          <span class="min-w-0 flex-1 max-lg:hidden">
            <span class="block"
              >{{ position.marking }}<template v-if="position.parts">, {{ position.parts }}</template></span
            >
            <span class="block text-small text-slate5"
              >{{ position.role_title
              }}<template v-if="position.standing.reading">
                · {{ position.standing.reading.number }} {{ position.standing.reading.unit }} read</template
              ></span
            >
            <span v-if="position.read.doubts[0]" class="block text-small font-semibold text-ochre-text">{{
              position.read.doubts[0].asks
            }}</span>
          </span>
          <span v-if="halfTyped(position.id)" class="shrink-0 text-small text-ochre-text">half typed</span>
          <EggMark v-if="position.read.provisional" />
          <VerdictMark :word="position.standing.word ?? 'unknown'" />
        </button>
      </li>
      <li v-if="positions.length" class="shrink-0 self-center lg:hidden">
        <button
          class="min-h-11 px-3 text-slate7 underline underline-offset-4"
          :aria-expanded="more"
          @click="more = !more"
        >
          {{ more ? 'Less' : 'More' }}
        </button>
      </li>
    </ul>
    <p v-if="chosenPosition" class="mt-2 text-small text-slate5 lg:hidden">
      {{ chosenPosition.marking }}<template v-if="chosenPosition.parts">, {{ chosenPosition.parts }}</template> ·
      {{ chosenPosition.role_title }}
    </p>
    <div class="mt-3 flex flex-wrap gap-3" :class="positions.length && !more ? 'max-lg:hidden' : ''">
      <div class="contents" :class="late ? 'max-lg:hidden' : ''">
        <ActionButton hint="n" @click="emit('add')">Add a position</ActionButton>
        <ActionButton v-if="chosen" @click="emit('edit')">Change it</ActionButton>
        <ActionButton hint="a" @click="emit('all')">All at a glance</ActionButton>
      </div>
      <ActionButton @click="emit('word')">Leave a word</ActionButton>
    </div>
  </nav>
</template>
