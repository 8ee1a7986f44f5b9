<script setup lang="ts">
import EffectNote from './EffectNote.vue'
import { useLimitEffect } from './queries'

/** What a limit of this value would change, while it is typed. */
const { id, typed } = defineProps<{ id: string; typed: unknown }>()
const { data } = useLimitEffect(
  () => id,
  () => Number(String(typed ?? '').replace(',', '.')),
)
</script>

<template><EffectNote :effect="data" /></template>
