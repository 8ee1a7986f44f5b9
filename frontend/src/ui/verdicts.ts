import type { Schemas } from '@/api/client'

/** How each word of a verdict is said and coloured; danger is kept for what must never be used. */
export const VERDICTS: Record<Schemas['Word'], { title: string; colour: string }> = {
  keep: { title: 'Keep', colour: 'text-tide' },
  watch: { title: 'Watch', colour: 'text-ochre' },
  unknown: { title: 'Cannot tell yet', colour: 'text-slate5' },
  replace: { title: 'Replace', colour: 'text-ink' },
  condemn: { title: 'Condemn', colour: 'text-danger' },
}

/** What a stretch of a tolerance window is filled with, by the word a reading there would come to. */
export const ZONE_FILLS: Record<Schemas['Word'], string> = {
  keep: 'fill-tide-w',
  watch: 'fill-ochre-w',
  unknown: 'fill-slate1',
  replace: 'fill-slate2',
  condemn: 'fill-slate2',
}
