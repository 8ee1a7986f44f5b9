import { createStore, del, get, keys, set } from 'idb-keyval'

/** Files that wait to be sent, by the key of their write: kept in this browser as long as that waits. */
const store = createStore('files', 'waiting')

export const fileOf = (key: string) => get<Blob>(key, store)
export const dropFile = (key: string) => del(key, store)

/** Keeps a file; fails where there is no room for it. */
export async function keepFile(key: string, file: Blob): Promise<void> {
  await set(key, file, store)
  if ('storage' in navigator) void navigator.storage.persist() // so that it is not cleared away while it waits
}

/** Leaves no file whose write waits no more. */
export async function tidyFiles(waits: string[]): Promise<void> {
  const gone = (await keys<string>(store)).filter((key) => !waits.includes(key))
  await Promise.all(gone.map(dropFile))
}
