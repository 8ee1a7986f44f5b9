<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import BesidePanel from './BesidePanel.vue'
import FittingList from './FittingList.vue'

/** The list to tick while a part is fitted. */
const { sheet, position } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const caution = computed(() => sheet.charge_line.find((item) => item.position_id === position?.id)?.caution ?? '')
</script>

<template>
  <div>
    <FittingList v-if="position" :key="position.id" :position :caution />
    <section v-else class="p-5" aria-label="Fit">Name a position first.</section>
    <BesidePanel :job-id="sheet.job.id" />
  </div>
</template>
