<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** A small curve for what may be on a capacitor; the words beside it carry the meaning. */
const { state } = defineProps<{ state: Schemas['ChargeState'] }>()
</script>

<template>
  <svg viewBox="0 0 44 18" class="h-[18px] w-11 shrink-0" aria-hidden="true" fill="none" stroke-linecap="round">
    <path v-if="state === 'unknown'" d="M1 6H43" class="stroke-slate5" stroke-width="2" stroke-dasharray="4 4" />
    <path v-else-if="state === 'energised'" d="M1 4H43" class="stroke-danger" stroke-width="4" />
    <path v-else-if="state === 'rising'" d="M1 16C20 15 30 10 43 2M36 2h7v6" class="stroke-danger" stroke-width="3" />
    <path v-else-if="state === 'proved'" d="M1 15H36M36 10V18" class="stroke-tide" stroke-width="2.5" />
    <path v-else-if="state === 'revoked'" d="M1 15H36M36 10V18M8 3L26 17" class="stroke-danger" stroke-width="2.5" />
    <path
      v-else-if="state === 'link_off'"
      d="M1 15H12M32 15H43M14 15c0-9 8-9 11-5"
      class="stroke-ochre"
      stroke-width="2.5"
    />
    <template v-else-if="state === 'lapsed'">
      <path d="M1 15H18M18 10V18" class="stroke-slate5" stroke-width="2.5" />
      <path d="M24 13C30 12 36 9 43 7" class="stroke-slate5" stroke-width="2" stroke-dasharray="3 4" />
    </template>
    <template v-else-if="state === 'emptying'">
      <path d="M1 2C10 4 16 14 43 16" class="stroke-ochre" stroke-width="2.5" />
      <circle cx="14" cy="8" r="3.5" class="fill-ochre" />
    </template>
    <path v-else d="M1 15H43M14 15c0-9 12-9 12 0" class="stroke-tide" stroke-width="2.5" />
  </svg>
</template>
