<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** A computed value: large digits, lighter unit. */
defineProps<{ figure: Schemas['Figure'] | { number: string; unit: string }; size?: 'number' | 'value' | 'line' }>()
</script>

<template>
  <span class="whitespace-nowrap tabular-nums">
    <span
      class="font-mono"
      :class="{
        'text-number leading-none font-medium tracking-tight': size === 'number',
        'text-value leading-tight font-medium': size === 'value' || !size,
        'font-medium': size === 'line',
      }"
      >{{ figure.number }}</span
    >
    {{ ' '
    }}<span class="font-light text-slate5" :class="size === 'number' ? 'text-value' : 'text-base'">{{
      figure.unit
    }}</span>
  </span>
</template>
