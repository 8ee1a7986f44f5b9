<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ask, client } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'

/** A small label to print: the tag of a removed part, or of a drawer. */
const { kind, id } = defineProps<{ kind: string; id: string }>()
const { data: label, error } = useQuery({
  queryKey: ['label', kind, id],
  queryFn: () =>
    kind === 'part'
      ? ask(client.GET('/api/parts/{part_id}/label', { params: { path: { part_id: id } } }))
      : ask(client.GET('/api/positions/{position_id}/label', { params: { path: { position_id: id } } })),
})
const print = () => window.print()
</script>

<template>
  <main class="p-5 print:p-0">
    <h1 class="text-title font-semibold print:hidden">{{ kind === 'part' ? 'Drawer label' : 'Bag tag' }}</h1>
    <ProblemNote v-if="error" :sentence="error.message" />
    <template v-if="label">
      <section
        class="mt-4 flex w-[70mm] max-w-full gap-[3mm] border border-slate3 bg-[#fff] p-[3mm] text-[#000] print:mt-0 print:border-0"
        aria-label="The label"
      >
        <svg
          :viewBox="`-2 -2 ${label.modules + 4} ${label.modules + 4}`"
          class="size-[24mm] shrink-0"
          role="img"
          aria-label="Code that opens it"
        >
          <path :d="label.dark" fill="currentColor" />
        </svg>
        <div class="min-w-0 text-[3mm] leading-tight break-words">
          <p class="text-[4.500mm] font-semibold">{{ label.title }}</p>
          <p v-for="line in label.lines" :key="line" class="mt-[0.800mm]">{{ line }}</p>
        </div>
      </section>
      <p class="mt-3 text-small break-all text-slate5 print:hidden">The code opens {{ label.url }}</p>
      <div class="mt-4 flex gap-3 print:hidden">
        <ActionButton primary @click="print">Print it</ActionButton>
        <ActionButton @click="$router.back()">Back</ActionButton>
      </div>
    </template>
  </main>
</template>
