import type { Schemas } from '@/api/client'

/** Where a check stands: its colour and a sign of its own, beside the word. */
export const STATES: Record<Schemas['CheckState'], { colour: string; path: string }> = {
  passes: { colour: 'text-tide', path: 'M4 17 11 24 28 6' },
  fails: { colour: 'text-danger', path: 'M16 4V19M16 25V27' },
  'cannot tell': { colour: 'text-ochre-text', path: 'M4 16Q10 6 16 16T28 16' },
  signed: { colour: 'text-ink', path: 'M4 24Q8 8 12 20T20 16 28 22' },
  missing: { colour: 'text-slate5', path: 'M5 16H27' },
}
