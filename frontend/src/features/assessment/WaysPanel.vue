<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** What may be done with a line-to-chassis part on a two-core lead, and what never. */
defineProps<{ ways: Schemas['WayOut'][] }>()
</script>

<template>
  <section class="mt-4" aria-label="What may be done">
    <h3 class="text-small font-semibold text-slate7">What may be done</h3>
    <ul class="mt-1">
      <li
        v-for="way in ways"
        :key="way.sentence"
        class="border-t border-slate2 py-2"
        :class="way.never ? 'border-l-4 border-l-danger bg-danger-w px-3 text-lead font-semibold' : ''"
      >
        {{ way.sentence }}
      </li>
    </ul>
    <p class="text-small text-slate5">Local rules and a licensed person decide.</p>
  </section>
</template>
