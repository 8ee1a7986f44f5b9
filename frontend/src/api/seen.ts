import { ref } from 'vue'

/** How many entries of the record of the job that is open this page has seen; none where no job is. */
export const seenEntries = ref<number>()
