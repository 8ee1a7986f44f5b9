<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { clockTime, roomFor } from '@/api/measures'
import { cut, unanswered } from '@/api/offline'
import { discard, waiting, type Waiting } from '@/api/outbox'

/** Whether the server answers, what waits in this browser to be sent, and what was refused: there is one of it. */
const open = ref(false)
const pending = computed(() => waiting.value.filter((one) => !one.refused))
const refused = computed(() => waiting.value.filter((one) => one.refused))
const since = computed(() => unanswered.value?.toLocaleTimeString('en-GB', { timeStyle: 'short' }))
const photos = computed(() => pending.value.filter((one) => one.file))
const room = ref('')
watch(
  () => photos.value.length,
  async (some) => {
    if (!some || !('storage' in navigator)) return
    const { quota = 0, usage = 0 } = await navigator.storage.estimate()
    room.value = `room for ${roomFor(Math.max(0, quota - usage))} more`
  },
  { immediate: true },
)
const kept = computed(() => {
  const size = photos.value.reduce((sum, one) => sum + (one.file?.size ?? 0), 0)
  const oldest = clockTime(photos.value[0]?.at ?? '')
  return [
    `${photos.value.length === 1 ? 'a photo' : `${photos.value.length} photos`}, ${roomFor(size)}, since ${oldest}`,
    room.value,
  ]
    .filter(Boolean)
    .join('; ')
})
const meant = ref('')
const queries = useQueryClient()
/** What was refused goes at once; what would still be sent is asked about first. */
function takeOut(one: Waiting): void {
  if (!one.refused && meant.value !== one.key) {
    meant.value = one.key
    return
  }
  discard(one.key)
  void queries.invalidateQueries()
}
/** What a write is about: the last word of its address, and what was typed. */
function says(one: Waiting): string {
  const what =
    one.url
      .split('/')
      .filter((piece) => piece && !/^[0-9a-f-]{36}$/.test(piece))
      .at(-1) ?? ''
  const typed = one.body ? Object.values(JSON.parse(one.body) as Record<string, unknown>) : []
  const words = typed.filter((value) => typeof value === 'string' && value && !/^[0-9a-f-]{36}$/.test(value))
  return `${what.replaceAll('-', ' ')}: ${words.slice(0, 4).join(', ')}`
}
</script>

<template>
  <aside class="border-b-2 border-ochre bg-ochre-w px-5 py-1.5 print:hidden" aria-label="Connection">
    <div class="flex flex-wrap items-center gap-x-4">
      <p role="status" class="font-semibold">
        <template v-if="cut"
          >No connection since {{ since }}: what you see is as it was seen last, within a day, or worked out here.
        </template>
        <template v-if="pending.length"
          >{{ pending.length }} {{ pending.length === 1 ? 'entry waits' : 'entries wait' }} in this browser to be
          sent.</template
        >
        <span v-if="photos.length" class="font-normal">&nbsp;{{ kept }}.</span>
        <span v-if="refused.length" class="text-danger"> {{ refused.length }} refused.</span>
      </p>
      <button
        v-if="waiting.length"
        class="min-h-11 underline underline-offset-4"
        :aria-expanded="open"
        @click="open = !open"
      >
        {{ open ? 'Hide' : 'Which' }}
      </button>
    </div>
    <ul v-if="open">
      <li v-for="one in waiting" :key="one.key" class="flex flex-wrap items-center gap-x-4 border-t border-slate3 py-1">
        <span class="font-mono">{{ says(one) }}</span>
        <span v-if="one.refused" class="text-danger">{{ one.refused }}</span>
        <button v-if="one.refused || cut" class="min-h-11 underline underline-offset-4" @click="takeOut(one)">
          {{ one.refused ? 'Let it go' : meant === one.key ? 'Yes, it is not to be sent' : 'Take it out' }}
        </button>
      </li>
    </ul>
  </aside>
</template>
