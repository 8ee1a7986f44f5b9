<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

/** A sheet over the page; Escape closes it and the focus goes back where it was. */
defineProps<{ title: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog open class="relative z-20" @close="emit('close')">
    <div class="fixed inset-0 bg-ink/40 dark:bg-paper/70" aria-hidden="true" />
    <div class="fixed inset-0 overflow-y-auto">
      <div class="flex min-h-full items-start justify-center p-3 sm:pt-20">
        <DialogPanel
          class="w-full border-t-4 border-ochre bg-paper p-5 sm:p-6"
          :class="wide ? 'max-w-3xl' : 'max-w-xl'"
        >
          <DialogTitle class="text-title font-semibold">{{ title }}</DialogTitle>
          <slot />
        </DialogPanel>
      </div>
    </div>
  </Dialog>
</template>
