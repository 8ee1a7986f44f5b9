<script setup lang="ts">
import EntryBody from '@/features/record/EntryBody.vue'
import FoldSection from '@/ui/FoldSection.vue'
import { useWorkshopRecord, useWorkshopVerified } from './queries'

/** What the workshop itself has on record: members, limits, instruments, the drawer; newest first, and whether it is whole. */
const { data: entries } = useWorkshopRecord()
const { data: verified } = useWorkshopVerified()
const time = (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'medium' })
</script>

<template>
  <FoldSection title="Record of the workshop" :says="verified ? `${verified.length} entries` : ''">
    <p v-if="verified?.whole" class="font-semibold text-tide">Whole: none altered.</p>
    <ul v-else-if="verified" class="text-danger" role="alert">
      <li v-if="verified.first_altered" class="font-semibold">
        Altered: entry {{ verified.first_altered }} does not fit the chain.
      </li>
      <li v-for="said in verified.differs" :key="said">{{ said }}</li>
    </ul>
    <ol class="mt-2">
      <li
        v-for="entry in entries"
        :key="entry.sequence"
        class="grid gap-x-4 border-t border-slate2 py-2 sm:grid-cols-[3rem_11rem_minmax(0,1fr)]"
      >
        <span class="font-mono text-slate5">{{ entry.sequence }}</span>
        <span class="text-small text-slate5"
          >{{ entry.at ? time(entry.at) : 'no time' }}<span class="block text-ink">{{ entry.by_name }}</span></span
        >
        <span>
          <strong class="block font-semibold first-letter:uppercase">{{ entry.kind }}</strong>
          <EntryBody :body="entry.body" />
        </span>
      </li>
    </ol>
  </FoldSection>
</template>
