import type { Schemas } from '@/api/client'

export type Stage = Schemas['Stage']
/** Every stage once: the list itself, its titles and their order, comes with the vocabulary. */
const EVERY: Record<Stage, true> = {
  intake: true,
  discharge: true,
  found: true,
  assess: true,
  replace: true,
  fit: true,
  power: true,
  handback: true,
  record: true,
}
export type Sheet = Stage | 'board' // the board is the sheet of all that is assessed
export const SHEET_NAMES: Sheet[] = [...(Object.keys(EVERY) as Stage[]), 'board']

/** The address of a sheet of a job, at one of its positions. */
export const sheetOf = (jobId: string, sheet: Sheet, position?: string) => ({
  path: ['', 'jobs', jobId, sheet].join('/'),
  query: position ? { position } : {},
})
