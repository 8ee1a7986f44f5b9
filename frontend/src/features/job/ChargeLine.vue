<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ChargeGlyph from '@/ui/ChargeGlyph.vue'
import { sayCharge } from '@/ui/charge'

/** What may still hold charge, position by position. It never says all clear. */
defineProps<{ items: Schemas['ChargeItem'][] }>()
</script>

<template>
  <ul class="flex flex-wrap gap-x-6 gap-y-1" aria-label="Charge line: what may still hold charge">
    <li v-for="item in items" :key="item.position_id" class="flex items-center gap-2">
      <ChargeGlyph :state="item.state" />
      <span :class="item.state === 'rising' ? 'font-semibold text-danger' : ''"
        ><strong class="font-semibold">{{ item.name }}</strong> {{ sayCharge(item) }}</span
      >
    </li>
    <li v-if="!items.length" class="text-slate5">No position named yet: nothing is known about charge.</li>
  </ul>
</template>
