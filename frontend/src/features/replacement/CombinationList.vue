<script setup lang="ts">
import FoldSection from '@/ui/FoldSection.vue'
import { useTogether } from './queries'

/** Parts of the drawer that take the place together, and what has to be made. */
const { positionId, open } = defineProps<{ positionId: string; open: boolean }>()
const { data: combinations } = useTogether(positionId)
const WAYS: Record<string, string> = {
  parallel: 'in parallel',
  series: 'in series',
  singles: 'a single for each section',
}
</script>

<template>
  <FoldSection v-if="combinations?.length" title="Together" says="two or more parts in the place" :open>
    <ul aria-label="Together">
      <li v-for="(row, index) in combinations" :key="index" class="border-t border-slate2 py-2">
        <p>
          <strong class="font-mono font-medium">{{
            row.sections.map((f) => `${f.number} ${f.unit}`).join(' + ')
          }}</strong>
          {{ WAYS[row.way] }}, {{ row.spread }} by tolerance<template v-if="row.worst_share"
            >, at worst {{ row.worst_share.number }} {{ row.worst_share.unit }} on one</template
          >
        </p>
        <p class="text-slate7">
          {{ row.parts.map((part) => `${part.marking}${part.place ? ` (${part.place})` : ''}`).join(' and ') }}
        </p>
        <p class="text-small text-slate5">{{ row.makes.join(' ') }}</p>
      </li>
    </ul>
  </FoldSection>
</template>
