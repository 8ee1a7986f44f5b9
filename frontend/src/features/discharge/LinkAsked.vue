<script setup lang="ts">
import TextField from '@/ui/TextField.vue'

/** What a part that creeps back is proved with: the link, or that it stood open all the while. */
defineProps<{ says: string; error?: string }>()
const link = defineModel<string>({ required: true })
const open = defineModel<boolean>('open', { required: true })
</script>

<template>
  <div class="mt-2 border-l-[3px] border-ochre pl-4">
    <p v-if="says" class="font-semibold">{{ says }}</p>
    <TextField v-model="link" label="The link stays on, and where" hint="such as across it, red clip" :error />
    <label class="mt-1 flex min-h-11 items-center gap-3">
      <input v-model="open" type="checkbox" class="size-5" />
      No link: it stood open, and nothing shorted it, since the link came off or it was proved last
    </label>
  </div>
</template>
