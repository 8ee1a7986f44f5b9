<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, defineAsyncComponent, onScopeDispose, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { cookie, whenSignedOut } from '@/api/client'
import { keepRules } from '@/api/device'
import { beginServer, readyThen } from '@/api/device/ready'
import { cut, keepFor, lockSeen } from '@/api/offline'
import { sendFor, waiting, whenSent } from '@/api/outbox'
import { whenCodeAsked } from '@/api/write'
import ReadingBox from '@/features/reading/ReadingBox.vue'
import { useMe } from '@/features/session/queries'
import BrandMark from '@/ui/BrandMark.vue'
import ReachLetters from './ReachLetters.vue'
import { useShortcuts } from './shortcuts'

// What most pages begin without comes when it is needed.
const SignIn = defineAsyncComponent(() => import('@/features/session/SignIn.vue'))
const FactorDemanded = defineAsyncComponent(() => import('@/features/session/FactorDemanded.vue'))
const ConnectionNote = defineAsyncComponent(() => import('./ConnectionNote.vue'))
const CodeDialog = defineAsyncComponent(() => import('@/features/session/CodeDialog.vue'))
const KeysDialog = defineAsyncComponent(() => import('./KeysDialog.vue'))
const MemberMenu = defineAsyncComponent(() => import('@/features/session/MemberMenu.vue'))
const { data: me, isLoading } = useMe()
const expired = ref(false)
const demanded = ref(false)
const keysShown = ref(false)
const route = useRoute()
const router = useRouter()
const queries = useQueryClient()
watch(
  me,
  (member) => {
    if (!member) return
    demanded.value ||= member.must_set_up // until its recovery codes were seen, and the page is begun anew
    if (demanded.value) return
    void keepFor(member.id)
    keepRules()
    sendFor(member.id, () => cookie('csrftoken'))
  },
  { immediate: true },
)
onScopeDispose(whenSent(() => queries.invalidateQueries()))
readyThen(() => queries.invalidateQueries())
watch(cut, (gone) => gone && me.value && void beginServer())
const codeAsked = ref<(given: boolean) => void>()
whenCodeAsked(
  () =>
    new Promise((resolve) => {
      codeAsked.value = (given) => {
        codeAsked.value = undefined
        resolve(given)
      }
    }),
)
whenSignedOut(() => {
  expired.value = me.value !== undefined
  void lockSeen()
})

const NAV = [
  { name: 'bench', title: 'Bench', to: '/', key: 'b' },
  { name: 'drawer', title: 'Drawer', to: '/drawer', key: 'd' },
  { name: 'meters', title: 'Meters', to: '/meters', key: 'm' },
  { name: 'workshop', title: 'Workshop', to: '/workshop', key: 'w' },
]
useShortcuts({
  ...Object.fromEntries(NAV.map((item) => [item.key, () => void router.push(item.to)])),
  '?': () => (keysShown.value = true),
})
const here = computed(
  () =>
    ({
      job: 'bench',
      policy: 'workshop',
      dropper: 'bench',
      supply: 'bench',
      memory: 'bench',
      shopping: 'drawer',
      label: route.params.kind === 'part' ? 'drawer' : 'bench',
    })[String(route.name)] ?? route.name,
)
</script>

<template>
  <SignIn v-if="!me && !isLoading" @done="expired = false" />
  <FactorDemanded v-else-if="me && demanded" :me />
  <template v-else-if="me">
    <SignIn v-if="expired" again class="fixed inset-0 z-30" @done="expired = false" />
    <div v-show="!expired" :inert="expired">
      <header
        class="print:hidden flex flex-wrap items-center gap-x-1 gap-y-2 border-b border-slate2 px-5 py-2 sm:gap-x-6"
      >
        <RouterLink to="/" class="flex min-h-11 min-w-11 items-center justify-center gap-2 font-bold max-sm:-ml-2.5">
          <BrandMark /><span class="max-sm:sr-only">Dusky Heron</span>
        </RouterLink>
        <nav aria-label="Main" class="flex sm:gap-x-3">
          <RouterLink
            v-for="item in NAV"
            :key="item.name"
            :to="item.to"
            class="flex min-h-11 items-center border-b-2 px-1 sm:px-1.5"
            :class="here === item.name ? 'border-ochre' : 'border-transparent text-slate7 hover:text-ink'"
            :aria-current="here === item.name ? 'page' : undefined"
            >{{ item.title }}</RouterLink
          >
        </nav>
        <ReadingBox v-if="route.name !== 'bench'" class="order-last w-full lg:order-none lg:w-auto lg:flex-1" />
        <span v-else class="flex-1" />
        <MemberMenu class="max-lg:ml-auto" :me @keys="keysShown = true" />
      </header>
      <ConnectionNote v-if="cut || waiting.length" />
      <RouterView />
      <CodeDialog v-if="codeAsked" @done="codeAsked" />
      <ReachLetters />
      <KeysDialog v-if="keysShown" @close="keysShown = false" />
    </div>
  </template>
</template>
