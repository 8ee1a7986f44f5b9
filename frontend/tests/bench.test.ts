import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { groupsOf } from '@/features/bench/order'

const sheet = (number: number, title: string, customer: string, stage_title: string, may_hurt: boolean) =>
  ({
    job: { number, title, customer },
    stage_title,
    waits_for: '',
    gravest: null,
    may_hurt,
    may_kill: false,
  }) as Schemas['BenchJob']
const SHEETS = [
  sheet(4, 'Flash bank', 'Picture House', 'Discharge', true),
  sheet(1, 'Circulation pump', 'Lido', 'Discharge', true),
  sheet(9, 'Hand dryer', 'Lido', 'Replace', false),
]
const shown = (words: string, order: 'harm' | 'newest' | 'stage' | 'customer', most = 99) =>
  groupsOf(SHEETS, words, order, most).map((group) => [group.sheets.map(({ job }) => job.number), group.more])

describe('the Bench in order', () => {
  it('leaves the order of harm to the server, and tells what may hurt from what may not', () => {
    expect(shown('', 'harm')).toEqual([
      [[4, 1], 0],
      [[9], 0],
    ])
  })
  it('has the newest first otherwise, put together by what was asked', () => {
    expect(shown('', 'newest')).toEqual([[[9, 4, 1], 0]])
    expect(shown('', 'customer')).toEqual([
      [[9, 1], 0],
      [[4], 0],
    ])
    expect(groupsOf(SHEETS, '', 'stage', 99).map((group) => group.title)).toEqual(['Replace', 'Discharge'])
  })
  it('finds by beginnings of all words, in whatever case, and by number', () => {
    expect(shown('LIDO dry', 'newest')).toEqual([[[9], 0]])
    expect(shown('  4 ', 'newest')).toEqual([[[4], 0]])
    expect(shown('nowhere', 'newest')).toEqual([])
  })
  it('says how many more there are than it shows', () => {
    expect(shown('', 'newest', 1)).toEqual([[[9], 2]])
  })
})
