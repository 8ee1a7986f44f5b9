<script setup lang="ts">
import { nextTick, useTemplateRef, watch } from 'vue'
import { useWork } from '@/api/work'
import type { Schemas } from '@/api/client'
import type { Writer } from '@/api/write'
import ProblemNote from '@/ui/ProblemNote.vue'
import WorkBar from '@/ui/WorkBar.vue'

/** A paper that the worker writes: asked for, its progress, and then it is fetched. */
const { writer } = defineProps<{ title: string; writer: Writer<null, Schemas['PaperWork']> }>()
const { work, running, answer, sentence, watch: follow, stop } = useWork<Schemas['Paper']>()
const file = () => `/api/work/${work.value?.id}/file`
const ask = async () => follow(await writer.write(null))
const link = useTemplateRef('link')
watch(answer, (made) => made && void nextTick(() => link.value?.click()))
</script>

<template>
  <li class="border-t border-slate2">
    <button
      class="flex min-h-11 w-full items-center text-left underline decoration-slate3 underline-offset-4"
      :disabled="running"
      @click="ask"
    >
      {{ title }}
    </button>
    <WorkBar v-if="running" class="mb-3" :work :what="title" @stop="stop()" />
    <p v-else-if="answer" class="mb-2 text-small text-slate7" role="status">
      It is ready:
      <a ref="link" class="underline" :href="file()" download
        >{{ answer.name }}, {{ (answer.size / 1e6).toFixed(1) }} MB</a
      >
    </p>
    <ProblemNote :sentence="sentence || writer.general.value" />
  </li>
</template>
