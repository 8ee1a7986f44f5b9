<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/ui/ProblemNote.vue'
import LineList from './LineList.vue'
import PhotoDialog from './PhotoDialog.vue'
import PhotoStrip from './PhotoStrip.vue'
import { useFound } from './queries'
import WaitingShape from '@/ui/WaitingShape.vue'

/** How it was found, before anything moves: lines and photos of the whole job. */
const { sheet } = defineProps<{ sheet: Schemas['JobSheet']; position?: Schemas['SheetPosition'] }>()
const { data: found, error } = useFound(sheet.job.id)
const opened = ref('')
const photo = computed(() => found.value?.photos.find((known) => known.id === opened.value))
</script>

<template>
  <section class="grid gap-x-10 gap-y-8 p-5 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]" aria-label="As found">
    <WaitingShape :when="!found && !error" :rows="4" />
    <template v-if="found">
      <LineList :job-id="sheet.job.id" :lines="found.lines" :positions="sheet.positions" />
      <PhotoStrip :job-id="sheet.job.id" :photos="found.photos" @open="opened = $event" />
      <PhotoDialog
        v-if="photo"
        :key="photo.id"
        :photo
        :lines="found.lines"
        :positions="sheet.positions"
        @close="opened = ''"
      />
    </template>
    <ProblemNote v-else-if="error" :sentence="error.message" />
  </section>
</template>
