<script setup lang="ts">
import { computed } from 'vue'

/** A circuit to take along, for a SPICE simulator. */
const { netlist, name } = defineProps<{ netlist: string; name: string }>()
const file = computed(() => `data:text/plain;charset=utf-8,${encodeURIComponent(netlist)}`)
</script>

<template>
  <p class="mt-4">
    <a
      class="inline-flex min-h-11 items-center underline decoration-slate3 underline-offset-4"
      :href="file"
      :download="`${name}.cir`"
      >Netlist for a SPICE simulator</a
    >
  </p>
</template>
