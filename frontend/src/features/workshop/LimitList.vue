<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** Limits with what each applies to and where it comes from; a lead may change one. */
const { limits, lead } = defineProps<{ limits: Schemas['LimitOut'][]; lead: boolean }>()
const emit = defineEmits<{ choose: [limit: Schemas['LimitOut']] }>()
</script>

<template>
  <ul class="mt-2 border-t border-slate2">
    <li v-for="row in limits" :key="row.id" class="border-b border-slate2">
      <component
        :is="lead ? 'button' : 'div'"
        class="grid w-full gap-x-4 py-2.5 text-left sm:grid-cols-[minmax(0,2fr)_minmax(0,3fr)_minmax(0,3fr)]"
        :class="lead ? 'hover:bg-sheet' : ''"
        @click="lead && emit('choose', row)"
      >
        <span class="font-mono text-lead">{{ row.said }}</span>
        <span>{{ row.applies_to }}</span>
        <span class="text-small text-slate5"
          >{{ row.group === 'verdict' ? row.source : row.id
          }}<span v-if="row.changed" class="block font-semibold text-ochre-text"
            >changed here: {{ row.reason }}; the source says {{ row.standard_said }}</span
          ></span
        >
      </component>
    </li>
  </ul>
</template>
