<script setup lang="ts">
interface Reason {
  sentence: string
  details?: (string | false)[]
  source?: string
  grave?: boolean
}

/** Why: reasons with their sources, at the right of a sheet. */
defineProps<{ title: string; reasons: Reason[] }>()
</script>

<template>
  <aside :aria-label="title">
    <h2 class="text-small font-semibold text-slate7">{{ title }}</h2>
    <ul class="mt-2">
      <li v-for="(reason, index) in reasons" :key="index" class="border-t border-slate2 py-2.5">
        <p :class="reason.grave ? 'font-semibold text-danger' : ''">{{ reason.sentence }}</p>
        <p v-for="detail in reason.details?.filter(Boolean)" :key="String(detail)" class="text-small text-slate7">
          {{ detail }}
        </p>
        <p v-if="reason.source" class="mt-0.5 text-small text-slate5">{{ reason.source }}</p>
      </li>
    </ul>
    <p
      v-if="reasons.some((reason) => reason.source) && !reasons.some((reason) => reason.source?.includes('edition'))"
      class="border-t border-slate2 pt-2 text-small text-slate5"
    >
      Check the edition of each standard that binds you.
    </p>
  </aside>
</template>
