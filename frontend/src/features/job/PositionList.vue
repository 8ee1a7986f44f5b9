<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import VerdictMark from '@/ui/VerdictMark.vue'

/** The positions of a job; the chosen one is what the sheet is about. */
defineProps<{ positions: Schemas['SheetPosition'][]; chosen?: string }>()
const emit = defineEmits<{ choose: [id: string]; add: []; edit: [] }>()
</script>

<template>
  <nav aria-label="Positions">
    <h2 class="text-small font-semibold text-slate7">Positions</h2>
    <ul class="mt-2">
      <li v-for="position in positions" :key="position.id">
        <button
          class="flex w-full items-start gap-3 border-l-[3px] py-2.5 pr-2 pl-3 text-left"
          :class="position.id === chosen ? 'border-ochre bg-sheet' : 'border-transparent hover:bg-sheet'"
          :aria-current="position.id === chosen ? 'true' : undefined"
          @click="emit('choose', position.id)"
        >
          <span class="w-11 shrink-0 font-mono font-semibold">{{ position.name }}</span>
          <span class="min-w-0 flex-1">
            <span class="block">{{ position.marking }}</span>
            <span class="block text-small text-slate5"
              >{{ position.role_title
              }}<template v-if="position.standing.reading">
                · {{ position.standing.reading.number }} {{ position.standing.reading.unit }} read</template
              ></span
            >
          </span>
          <VerdictMark :word="position.standing.word ?? 'unknown'" />
        </button>
      </li>
    </ul>
    <div class="mt-3 flex flex-wrap gap-3">
      <ActionButton hint="n" @click="emit('add')">Add a position</ActionButton>
      <ActionButton v-if="chosen" @click="emit('edit')">Change it</ActionButton>
    </div>
  </nav>
</template>
