<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'

/** The supply bench without a job: one bench for each kind of supply, and the walk from the inlet. */
const { kind = 'transformer' } = defineProps<{ kind?: string }>()
const KINDS = [
  {
    id: 'transformer',
    title: 'Transformer-fed',
    says: 'A transformer, a rectifier and a reservoir. Type a larger one to see what it does to the rectifier.',
    bench: defineAsyncComponent(() => import('./SupplyBench.vue')),
  },
  {
    id: 'switching',
    title: 'Switching',
    says: 'The bulk capacitor behind the mains bridge: does its valley keep the converter running?',
    bench: defineAsyncComponent(() => import('./BulkBench.vue')),
  },
  {
    id: 'string',
    title: 'Series string',
    says: 'Capacitors in series share by capacitance at first, by leakage in the end.',
    bench: defineAsyncComponent(() => import('./StringBench.vue')),
  },
  {
    id: 'forming',
    title: 'Re-forming',
    says: 'An electrolytic that has lain for years, brought up in steps.',
    bench: defineAsyncComponent(() => import('./FormingBench.vue')),
  },
  {
    id: 'walk',
    title: 'Fault walk',
    says: 'A mains supply from its inlet: what to measure next, and what it should read.',
    bench: defineAsyncComponent(() => import('./WalkBench.vue')),
  },
]
const shown = computed(() => KINDS.find((known) => known.id === kind) ?? KINDS[0])
</script>

<template>
  <main class="p-5 pb-10">
    <h1 class="text-title font-semibold">Supply bench</h1>
    <nav aria-label="Kinds of supply" class="mt-2 flex flex-wrap gap-x-5 border-b border-slate2">
      <RouterLink
        v-for="known in KINDS"
        :key="known.id"
        :to="`/supply/${known.id}`"
        class="inline-flex min-h-11 items-center border-b-2"
        :class="known.id === shown?.id ? 'border-ochre font-semibold' : 'border-transparent text-slate7'"
        :aria-current="known.id === shown?.id ? 'page' : undefined"
        >{{ known.title }}</RouterLink
      >
    </nav>
    <p class="mt-3 mb-4 max-w-prose text-slate7">{{ shown?.says }}</p>
    <component :is="shown?.bench" :key="shown?.id" />
  </main>
</template>
