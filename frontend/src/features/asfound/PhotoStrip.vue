<script setup lang="ts">
import { ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import TextField from '@/ui/TextField.vue'
import { useAddPhoto } from './queries'

/** The photos of a job; from the phone's camera or from a file. */
const { jobId, photos } = defineProps<{ jobId: string; photos: Schemas['PhotoOut'][] }>()
const emit = defineEmits<{ open: [id: string] }>()
const { write, pending, at, general } = useAddPhoto(jobId)
const caption = ref('')
const points = (photo: Schemas['PhotoOut']) => {
  const marked = photo.points.filter((point) => !point.struck).length
  return `${marked} ${marked === 1 ? 'point' : 'points'}`
}
const picker = useTemplateRef<HTMLInputElement>('picker')
const left = ref(0)
/** One after another; a single one is opened for its points, of several none. */
async function send(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  left.value = files.length
  for (const photo of files) {
    const numbered = files.length > 1 ? ` ${files.length - left.value + 1}` : ''
    const kept = await write({ photo, caption: caption.value && `${caption.value}${numbered}` })
    if (!kept) break
    left.value -= 1
    if (files.length === 1) emit('open', kept.id)
  }
  if (!left.value) caption.value = ''
  left.value = 0
}
</script>

<template>
  <section aria-label="Photos">
    <div class="grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_auto]">
      <TextField v-model="caption" label="Photo of" :error="at('caption')" />
      <div class="sm:mt-6">
        <ActionButton :disabled="pending" @click="picker?.click()">{{
          pending ? (left > 1 ? `Keeping ${left} photos …` : 'Keeping the photo …') : 'Add photos'
        }}</ActionButton>
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
    <ProblemNote class="mt-3" :sentence="at('photo') || general" />
    <ul v-if="photos.length" class="mt-4 grid grid-cols-2 gap-3 sm:grid-cols-3 xl:grid-cols-2">
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
    </ul>
    <p v-else class="mt-3">No photo yet. One of the whole, one of each terminal block, before a wire is moved.</p>
  </section>
</template>
