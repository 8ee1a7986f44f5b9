<script setup lang="ts">
import FoldSection from '@/ui/FoldSection.vue'
import BulkBench from './BulkBench.vue'
import DropperPanel from './DropperPanel.vue'
import FormingBench from './FormingBench.vue'
import StringBench from './StringBench.vue'
import SupplyBench from './SupplyBench.vue'
import { useBenches } from './queries'

/** The benches a position asks for, with its values in them. */
const { positionId } = defineProps<{ positionId: string }>()
const { data: benches } = useBenches(positionId)
const EXAMPLE = 'What this job does not know stands here as an example: type what is there.'
</script>

<template>
  <template v-if="benches">
    <DropperPanel v-if="benches.dropper" :position-id="positionId" />
    <FoldSection v-if="benches.supply" title="Supply bench" says="may its reservoir grow?">
      <p class="text-small text-slate7">{{ EXAMPLE }}</p>
      <SupplyBench :start="benches.supply" />
    </FoldSection>
    <FoldSection v-if="benches.bulk" title="Bulk bench" says="does its valley keep the converter running?">
      <p class="text-small text-slate7">{{ EXAMPLE }}</p>
      <BulkBench :start="benches.bulk" />
    </FoldSection>
    <FoldSection v-if="benches.string" title="Series string" says="how it shares its voltage">
      <p class="text-small text-slate7">{{ EXAMPLE }}</p>
      <StringBench :start="benches.string" />
    </FoldSection>
    <FoldSection v-if="benches.forming" title="Re-forming" says="for a part that cannot be bought">
      <FormingBench :start="benches.forming" :position-id="positionId" />
    </FoldSection>
  </template>
</template>
