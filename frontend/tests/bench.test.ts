import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { dayFromNow, groupsOf } from '@/features/bench/order'

const sheet = (number: number, title: string, customer: string, stage_title: string, may_hurt: boolean) =>
  ({
    job: { number, title, customer },
    stage_title,
    waits_for: '',
    waits_on: 'hands',
    proposed: [] as string[],
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

describe('the Bench by what was promised', () => {
  it('has the late first, then today, the week, what is later, and at last what nobody promised', () => {
    const days = [null, 8, 0, -1, 7, 1]
    const sheets = days.map((days, number) => {
      const one = sheet(number, 'Pump', 'Lido', 'Assess', false)
      one.job.promised_by = days === null ? null : dayFromNow(days)
      return one
    })
    expect(
      groupsOf(sheets, '', 'promised', 99).map((group) => [group.title, group.sheets.map(({ job }) => job.number)]),
    ).toEqual([
      ['Promised, and late', [3]],
      ['Promised for today', [2]],
      ['Promised within a week', [5, 4]],
      ['Promised for later', [1]],
      ['No day promised', [0]],
    ])
  })
})

describe('the Bench by who worked on it last', () => {
  it('has mine first, the newest of each person first, and finds a word that was left', () => {
    const last: [string, string][] = [
      ['Bo', '1'],
      ['Al', '2'],
      ['', ''],
      ['Cy', '3'],
      ['Bo', '4'],
    ]
    const sheets = last.map(([last_by, last_at], number) => ({
      ...sheet(number, 'Pump', 'Lido', 'Assess', false),
      last_by,
      last_at: last_at || null,
      handed_over: number === 1 ? { says: 'Glue sets', by_name: 'Al', at: '2', sequence: 4 } : null,
    }))
    const found = (words: string) =>
      groupsOf(sheets, words, 'last', 99, 'Bo').map((group) => [group.title, group.sheets.map(({ job }) => job.number)])
    expect(found('')).toEqual([
      ['Bo worked on it last', [4, 0]],
      ['Al worked on it last', [1]],
      ['Cy worked on it last', [3]],
      ['Nobody has worked on it', [2]],
    ])
    expect(found('glue')).toEqual([['Al worked on it last', [1]]])
  })
})

describe('the Bench by what it waits for', () => {
  it('has what waits for a signature first, then for a part, then for hands, and finds what is proposed', () => {
    const sheets = (['hands', 'part', 'signature', 'part'] as const).map((waits_on, number) => {
      const one = { ...sheet(number, 'Pump', 'Lido', 'Replace', false), waits_on }
      return waits_on === 'signature' ? { ...one, proposed: ['C1: 16 µF ±5 % 450 V~'] } : one
    })
    const found = (words: string) =>
      groupsOf(sheets, words, 'waits', 99).map((group) => [group.title, group.sheets.map(({ job }) => job.number)])
    expect(found('')).toEqual([
      ['Waits for a signature', [2]],
      ['Waits for a part', [3, 1]],
      ['Waits for hands', [0]],
    ])
    expect(found('16 µF')).toEqual([['Waits for a signature', [2]]])
  })
})

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
