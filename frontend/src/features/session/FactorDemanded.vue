<script setup lang="ts">
import type { Schemas } from '@/api/client'
import BrandMark from '@/ui/BrandMark.vue'
import FactorSteps from './FactorSteps.vue'
import { useSession } from './queries'

/** All that is open where the workshop demands a second factor and the member has none. */
const { me } = defineProps<{ me: Schemas['Me'] }>()
const { signOut } = useSession()
const again = () => location.assign('/')
</script>

<template>
  <main class="flex min-h-dvh items-center justify-center bg-paper p-4">
    <div class="w-full max-w-lg">
      <div class="flex items-center gap-3">
        <BrandMark class="size-10" />
        <h1 class="text-value font-bold">A second factor first</h1>
      </div>
      <p class="mt-2 text-slate7">{{ me.workshop }} demands one of everybody who signs in. You are {{ me.name }}.</p>
      <FactorSteps demanded @done="again" @cancel="signOut" />
    </div>
  </main>
</template>
