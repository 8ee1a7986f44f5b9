import { ref } from 'vue'

/** How many entries of the record of the job that is open this page has seen; none where no job is. */
export const seenEntries = ref<number>()

/** What the writer of something that waited had seen of the record, and what they had written themselves since. */
export const knew = ({ seen, after }: { seen?: number; after?: string[] }): Record<string, string> => ({
  ...(seen === undefined ? {} : { 'Seen-Entries': String(seen) }),
  ...(after?.length ? { 'After-Writes': after.join() } : {}),
})
