<script setup lang="ts">
import type { Schemas } from '@/api/client'
import WireColours from './WireColours.vue'

/** The pins of a connector in their order, each with its wires; an empty one says so. */
defineProps<{ pins: Schemas['ConnectorPinOut'][] }>()
</script>

<template>
  <ol class="flex flex-wrap gap-1.5" aria-label="Pins">
    <li
      v-for="pin in pins"
      :key="pin.name"
      class="min-w-20 border px-2 py-1"
      :class="pin.wires.length ? 'border-slate3' : 'border-dashed border-slate3'"
    >
      <span class="block font-mono text-small text-slate5">{{ pin.name }}</span>
      <span v-if="!pin.wires.length" class="text-slate5">empty</span>
      <span v-for="(colours, index) in pin.wires" :key="index" class="flex items-center gap-1.5">
        <WireColours class="w-6!" :colours />{{ colours.join('/') }}
      </span>
    </li>
  </ol>
</template>
