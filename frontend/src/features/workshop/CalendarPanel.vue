<script setup lang="ts">
import { computed, ref } from 'vue'
import ActionButton from '@/ui/ActionButton.vue'
import ProblemNote from '@/ui/ProblemNote.vue'
import { useCalendarAddress, useEndCalendar, useRenewCalendar } from './queries'

/** Where another program reads the workshop's due dates: by an address that is a secret. */
const { data: where } = useCalendarAddress()
const renewing = useRenewCalendar()
const ending = useEndCalendar()
const address = computed(() => (where.value?.address ? `${location.origin}${where.value.address}` : ''))
const renew = () => where.value && renewing.write({ number: where.value.number })
const copied = ref('') // the address that was copied: another one is not
async function copy() {
  await navigator.clipboard.writeText(address.value)
  copied.value = address.value
}
</script>

<template>
  <section aria-labelledby="calendar-title">
    <h2 id="calendar-title" class="mt-6 text-small font-semibold text-slate7">Due dates in a calendar</h2>
    <p class="text-slate7">
      Promised days, warranties, calibrations, needed parts.
      <a href="/api/due.ics" class="inline-flex min-h-11 items-center underline decoration-slate3 underline-offset-4"
        >As a file, once</a
      >
    </p>
    <template v-if="address">
      <p class="text-slate7">
        Another program reads them here without signing in: whoever has the address reads titles and dates, nothing
        else.
      </p>
      <code class="mt-1 block border-l-[3px] border-slate3 bg-sheet px-3 py-2 font-mono text-small break-all">{{
        address
      }}</code>
      <p class="mt-2 flex flex-wrap gap-2">
        <ActionButton @click="copy">{{ copied === address ? 'Copied' : 'Copy it' }}</ActionButton>
        <ActionButton asks="lead" :disabled="renewing.pending.value" @click="renew()"
          >Another address; this one ends</ActionButton
        >
        <ActionButton asks="lead" :disabled="ending.pending.value" @click="ending.write(null)"
          >Take it away</ActionButton
        >
      </p>
    </template>
    <ActionButton v-else-if="where" class="mt-1" asks="lead" :disabled="renewing.pending.value" @click="renew()"
      >Make an address for a calendar program</ActionButton
    >
    <ProblemNote class="mt-1" :sentence="renewing.general.value || ending.general.value" />
  </section>
</template>
