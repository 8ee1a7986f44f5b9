<script setup lang="ts">
import EffectNote from './EffectNote.vue'
import { useSchoolEffect } from './queries'

/** What another school would change, while it is chosen. */
const { id, option } = defineProps<{ id: string; option: string }>()
const { data } = useSchoolEffect(
  () => id,
  () => option,
)
</script>

<template><EffectNote :effect="data" /></template>
