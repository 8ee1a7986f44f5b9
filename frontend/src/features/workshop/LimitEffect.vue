<script setup lang="ts">
import EffectNote from './EffectNote.vue'
import { useLimitEffect } from './queries'
import { typedNumber } from '@/ui/fields'

/** What a limit of this value would change, while it is typed. */
const { id, typed } = defineProps<{ id: string; typed: unknown }>()
const { data } = useLimitEffect(
  () => id,
  () => typedNumber(String(typed ?? '')),
)
</script>

<template><EffectNote :effect="data" /></template>
