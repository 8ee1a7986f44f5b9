<script setup lang="ts">
import type { Schemas } from '@/api/client'
import OrderedRow from './OrderedRow.vue'

/** What was ordered and has not come. */
defineProps<{ ordered: Schemas['OrderedOut'][] }>()
</script>

<template>
  <h2 class="mt-6 text-small font-semibold text-slate7">On its way</h2>
  <ul aria-label="On its way">
    <OrderedRow v-for="row in ordered" :key="row.id" :row />
  </ul>
</template>
