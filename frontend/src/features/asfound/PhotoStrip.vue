<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { underWay, waiting, type Waiting } from '@/api/outbox'
import { saysElsewhere } from '@/api/write'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useAddPhotos } from './queries'
import UnsentPhoto from './UnsentPhoto.vue'

/** The photos of a job; from the phone's camera or from a file. */
const { jobId, photos } = defineProps<{ jobId: string; photos: Schemas['PhotoOut'][] }>()
const emit = defineEmits<{ open: [id: string] }>()
const { add, problem } = useAddPhotos(jobId)
const mine = (one: Waiting) => one.url === `/api/jobs/${jobId}/photos` && one.file !== undefined
const waits = computed(() => waiting.value.filter(mine))
const going = computed(() =>
  underWay.value.filter((one) => mine(one) && !waits.value.some((other) => other.key === one.key)),
)
const caption = ref('')
const points = (photo: Schemas['PhotoOut']) => {
  const marked = photo.points.filter((point) => !point.struck).length
  return `${marked} ${marked === 1 ? 'point' : 'points'}`
}
const picker = useTemplateRef<HTMLInputElement>('picker')
const refused = () => problem.value !== undefined
const SOON_MS = 5_000
let busy = false // with something else, since the photo was chosen
const idle = () => !busy
useEventListener(document, ['keydown', 'pointerdown'], () => (busy = true), { capture: true })
/** Each goes behind the form; a single one that is kept soon is opened for its points, unless one is busy by then; of several none. */
async function send(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  const typed = caption.value
  const begun = Date.now()
  input.value = caption.value = ''
  problem.value = undefined
  busy = false
  const numbered = (index: number) => (typed && files.length > 1 ? `${typed} ${index + 1}` : typed)
  const kept = await Promise.all(files.map((photo, index) => add(photo, numbered(index))))
  if (refused()) caption.value ||= typed
  else if (files.length === 1 && kept[0] && idle() && Date.now() - begun < SOON_MS) emit('open', kept[0].id)
}
</script>

<template>
  <section aria-label="Photos">
    <div class="grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_auto]">
      <TextField v-model="caption" label="Photo of" :error="problem?.at('caption')" />
      <div class="sm:mt-6">
        <ActionButton @click="picker?.click()">Add photos</ActionButton>
        <input
          ref="picker"
          class="sr-only"
          type="file"
          multiple
          accept="image/*,.heic,.heif"
          aria-label="Photo file"
          tabindex="-1"
          @change="send"
        />
      </div>
    </div>
    <ProblemNote
      class="mt-3"
      :sentence="problem && (problem.at('photo') ?? saysElsewhere(problem.problem, ['caption']))"
    />
    <ul
      v-if="photos.length || waits.length || going.length"
      class="mt-4 grid grid-cols-2 gap-3 sm:grid-cols-3 xl:grid-cols-2"
    >
      <li v-for="photo in photos" :key="photo.id">
        <button class="block w-full text-left" @click="emit('open', photo.id)">
          <img
            class="aspect-4/3 w-full bg-slate1 object-cover"
            :class="photo.struck ? 'opacity-40 grayscale' : ''"
            :src="`/api/photos/${photo.id}/small`"
            :alt="photo.caption || 'photo'"
            loading="lazy"
          />
          <span class="mt-1 block" :class="photo.struck ? 'text-slate5 line-through' : ''">{{
            photo.caption || 'no caption'
          }}</span>
          <span class="block text-small text-slate5"
            >{{ photo.struck ? 'struck' : points(photo) }} · {{ photo.by_name }}</span
          >
        </button>
      </li>
      <UnsentPhoto v-for="one in going" :key="one.key" :one going />
      <UnsentPhoto v-for="one in waits" :key="`${one.key} waits`" :one />
    </ul>
    <p v-else class="mt-3">No photo yet. One of the whole, one of each terminal block, before a wire is moved.</p>
  </section>
</template>
