<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { linesUnsent } from '@/api/lines'
import { waiting } from '@/api/outbox'
import { dark, toggleTheme } from '@/app/theme'
import ActionButton from '@/ui/ActionButton.vue'
import ModalDialog from '@/ui/ModalDialog.vue'
import { useSession } from './queries'

const { me } = defineProps<{ me: Schemas['Me'] }>()
const emit = defineEmits<{ keys: [] }>()
const initials = computed(() => me.name.replaceAll(/[^\p{Lu}]/gu, '').slice(0, 2))
const { signOut } = useSession()
const asks = ref(false)
/** Signing out leaves nothing here: what was not sent would be lost, so it is said first. */
const unsent = ref(0)
function leave() {
  unsent.value = waiting.value.length + linesUnsent(me.id)
  if (unsent.value) asks.value = true
  else void signOut()
}
const itemClass = (active: boolean) => ['block min-h-11 w-full px-4 py-2 text-left', active ? 'bg-slate1' : '']
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="min-h-11 text-slate7 hover:text-ink">
      <span class="max-sm:sr-only">{{ me.name }} · {{ me.role }}</span>
      <span class="rounded-full border border-slate3 px-2 py-1 font-semibold sm:hidden" aria-hidden="true">{{
        initials
      }}</span>
    </MenuButton>
    <MenuItems class="absolute right-0 z-10 w-52 border border-slate3 bg-sheet py-1">
      <MenuItem v-slot="{ active }">
        <button :class="itemClass(active)" @click="toggleTheme">{{ dark ? 'Light' : 'Dark' }} page</button>
      </MenuItem>
      <MenuItem v-slot="{ active }">
        <button :class="itemClass(active)" @click="emit('keys')">Keys</button>
      </MenuItem>
      <MenuItem v-slot="{ active }">
        <button :class="itemClass(active)" @click="leave">Sign out</button>
      </MenuItem>
    </MenuItems>
    <ModalDialog v-if="asks" title="Not everything was sent" @close="asks = false">
      <p>
        {{ unsent }} {{ unsent === 1 ? 'entry waits' : 'entries wait' }} in this browser. Signing out empties it: they
        would be lost.
      </p>
      <div class="mt-4 flex flex-wrap gap-3">
        <ActionButton primary @click="asks = false">Stay signed in</ActionButton>
        <ActionButton @click="signOut">Sign out and lose them</ActionButton>
      </div>
    </ModalDialog>
  </Menu>
</template>
