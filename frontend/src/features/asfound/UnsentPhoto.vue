<script setup lang="ts">
import { onMounted, ref, useTemplateRef } from 'vue'
import { clockTime, roomFor } from '@/api/measures'
import { discard, type Waiting } from '@/api/outbox'
import DeliberateButton from '@/ui/DeliberateButton.vue'

/** A photo that is not sent yet, or on its way, as it is kept in this browser. */
const { one } = defineProps<{ one: Waiting; going?: boolean }>()
const WIDTH = 480
const canvas = useTemplateRef('canvas')
const shown = ref(true)
const caption = (JSON.parse(one.body) as { caption: string }).caption
onMounted(async () => {
  try {
    const file = await (await import('@/api/files')).fileOf(one.key)
    const picture = await createImageBitmap(file as Blob, { resizeWidth: WIDTH })
    if (!canvas.value) return
    Object.assign(canvas.value, { width: picture.width, height: picture.height })
    canvas.value.getContext('2d')?.drawImage(picture, 0, 0)
  } catch {
    shown.value = false // of a kind that this browser cannot draw, or gone
  }
})
</script>

<template>
  <li>
    <canvas
      v-if="shown"
      ref="canvas"
      class="aspect-4/3 w-full bg-slate1 object-cover"
      role="img"
      :aria-label="caption"
    />
    <p v-else class="grid aspect-4/3 place-items-center bg-slate1 px-3 text-small break-all text-slate7">
      {{ one.file?.name }}
    </p>
    <p class="mt-1">{{ caption || 'no caption' }}</p>
    <p v-if="one.refused" role="alert" class="font-semibold text-danger">{{ one.refused }}</p>
    <p v-else class="text-small font-semibold text-ochre-text">
      {{ going ? 'being sent' : 'not sent yet' }} · {{ clockTime(one.at) }} · {{ roomFor(one.file?.size ?? 0) }}
    </p>
    <DeliberateButton v-if="!going" class="mt-1" @act="discard(one.key)">{{
      one.refused ? 'Let it go' : 'Take it out'
    }}</DeliberateButton>
  </li>
</template>
