<script setup lang="ts">
import { useAsksFor, type Asks } from '@/api/may'

/**
 * A button with the key that presses it. The primary one is the next step; there is one on a sheet. What the signed-in member
 * may not do says beforehand whom it `asks` for; where it `proposes`, that member signs what is pressed here.
 */
const { asks, proposes } = defineProps<{
  primary?: boolean
  hint?: string
  type?: 'button' | 'submit'
  disabled?: boolean
  asks?: Asks
  proposes?: boolean
}>()
const other = useAsksFor()(asks)
</script>

<template>
  <button
    :type="type ?? 'button'"
    :disabled="disabled || (other !== '' && !proposes)"
    class="print:hidden inline-flex min-h-11 items-center gap-3 rounded-sm border px-4 py-2 text-left font-semibold"
    :class="
      other
        ? ['border-dashed', proposes ? 'border-slate7 hover:border-ink' : 'border-slate3 text-slate7'] // not faded: why is to be read
        : [
            primary ? 'border-ink bg-ink text-paper' : 'border-slate3 bg-transparent hover:border-ink',
            'disabled:opacity-50',
          ]
    "
  >
    <slot />
    <span v-if="other" class="text-small font-normal">{{
      proposes ? `proposes it: ${other} signs` : `asks for ${other}`
    }}</span>
    <kbd
      v-else-if="hint"
      class="rounded-xs border px-1.5 font-mono text-small font-normal max-sm:hidden"
      :class="primary ? 'border-slate5' : 'border-slate3'"
      aria-hidden="true"
      >{{ hint }}</kbd
    >
  </button>
</template>
