<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** What is left, held against each limit that applies. */
defineProps<{ checks: Schemas['LimitCheckOut'][] }>()
</script>

<template>
  <ul class="mt-2">
    <li v-for="check in checks" :key="check.id" class="border-t border-slate2 py-2">
      <p :class="check.meets ? '' : 'font-semibold text-danger'">
        {{ check.sentence }} <span class="font-normal text-slate7">{{ check.said }}</span>
      </p>
      <p class="text-small text-slate5">
        {{ check.planned.number }} {{ check.planned.unit }} to plan with · {{ check.source }}
      </p>
    </li>
  </ul>
</template>
