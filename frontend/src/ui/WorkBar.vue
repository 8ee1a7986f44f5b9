<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ActionButton from './ActionButton.vue'

/** How far long work is, and a way to stop it. */
defineProps<{ work?: Schemas['WorkOut']; what: string }>()
const emit = defineEmits<{ stop: [] }>()
</script>

<template>
  <div class="mt-4 flex flex-wrap items-center gap-4" role="status">
    <label class="min-w-40 flex-1">
      <span class="block text-small text-slate7">
        {{ what
        }}<template v-if="work?.total"
          >, <span class="font-mono">{{ work.done }}</span> of {{ work.total }}</template
        ><template v-else>, waiting for the worker</template>
      </span>
      <progress
        class="mt-1 h-2 w-full accent-ochre"
        :value="work?.total ? work.done : undefined"
        :max="work?.total || 1"
      />
    </label>
    <ActionButton :disabled="work?.stop_asked" @click="emit('stop')">Stop it</ActionButton>
  </div>
</template>
