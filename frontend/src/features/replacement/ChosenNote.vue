<script setup lang="ts">
import type { Schemas } from '@/api/client'
import StrikeLine from '@/features/record/StrikeLine.vue'

/** How the place is to be filled, as it was chosen last: by which parts, or by none and why. */
const { choice } = defineProps<{ choice: Schemas['ChoiceOut']; pending: boolean }>()
const emit = defineEmits<{ takeOut: [] }>()
const time = (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
const alone = choice.way === 'single'
</script>

<template>
  <div class="mt-3 border-l-[3px] border-tide bg-tide-w px-3 py-2" role="status">
    <p>
      <strong class="font-semibold">Chosen: {{ choice.marking }}</strong
      ><template v-if="choice.place">, from drawer {{ choice.place }}</template
      ><template v-if="choice.stands && !alone">, {{ choice.way_title }}</template
      ><template v-if="choice.resistor">, with {{ choice.resistor }}</template
      >. {{ choice.by_name }}, {{ time(choice.at) }}.
      <template v-if="choice.out_at">
        Out of the drawer{{ choice.lot ? `, lot ${choice.lot}` : '' }}, {{ time(choice.out_at) }}.
      </template>
    </p>
    <p v-if="choice.reason">{{ choice.reason }}</p>
    <p v-for="sentence in choice.signed" :key="sentence" class="text-small text-slate7">Signed: {{ sentence }}</p>
    <p v-if="choice.way === 'ordered'" class="text-slate7">
      On the <RouterLink class="underline underline-offset-2" to="/shopping">shopping list</RouterLink>, to this
      specification: {{ choice.specification.join('; ') }}.
    </p>
    <span class="mt-1 flex flex-wrap gap-x-4">
      <button
        v-if="choice.stands && !choice.out_at"
        class="min-h-11 underline underline-offset-2"
        :disabled="pending"
        @click="emit('takeOut')"
      >
        Take {{ choice.parts.length > 1 ? 'them' : 'it' }} out of the drawer
      </button>
      <RouterLink
        class="inline-flex min-h-11 items-center underline underline-offset-2"
        :to="`/label/position/${choice.position_id}`"
        >Tag for the removed part</RouterLink
      >
      <StrikeLine :sequence="choice.sequence" what="this choice" />
    </span>
  </div>
</template>
