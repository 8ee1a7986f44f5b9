<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ChargeGlyph from '@/ui/ChargeGlyph.vue'
import EnergyMark from '@/ui/EnergyMark.vue'
import { sayCharge } from '@/ui/charge'

/** What may still hold charge, position by position; many that say the same stand together. It never says all clear. */
type Item = Schemas['ChargeItem']
const { items } = defineProps<{ items: Item[] }>()
const APART = 4 // positions up to which each has a glyph of its own
const groups = computed(() => {
  const found: { key: string; names: string[]; said: string; state: Schemas['ChargeState']; most: Item }[] = []
  for (const item of items) {
    const said = sayCharge(item)
    const alike = items.length > APART && found.find((group) => group.said === said && group.state === item.state)
    if (alike) {
      alike.names.push(item.name)
      if ((item.energy?.value ?? 0) > (alike.most.energy?.value ?? 0)) alike.most = item
    } else found.push({ key: item.position_id, names: [item.name], said, state: item.state, most: item })
  }
  return found
})
</script>

<template>
  <ul
    class="flex max-h-28 flex-wrap gap-x-6 gap-y-1 overflow-y-auto"
    aria-label="Charge line: what may still hold charge"
    :tabindex="items.length > 1 ? 0 : undefined"
  >
    <li v-for="group in groups" :key="group.key" class="flex items-center gap-2">
      <ChargeGlyph :state="group.state" />
      <span v-if="group.most.energy && group.most.mark" class="flex shrink-0 flex-col items-start">
        <EnergyMark :mark="group.most.mark" />
        <span class="font-mono text-small whitespace-nowrap" :title="group.most.band_sentence"
          >{{ group.names.length > 1 ? 'most ' : '' }}{{ group.most.energy.number }} {{ group.most.energy.unit }}</span
        >
      </span>
      <span :class="['rising', 'revoked'].includes(group.state) ? 'font-semibold text-danger' : ''"
        ><strong class="font-semibold">{{ group.names.join(', ') }}</strong> {{ group.said }}</span
      >
    </li>
    <li v-if="!items.length" class="text-slate5">No position named yet: nothing is known about charge.</li>
  </ul>
</template>
