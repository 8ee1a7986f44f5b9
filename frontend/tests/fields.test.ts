import { describe, expect, it } from 'vitest'
import { fieldsOf, sent, typedNumber, type FieldSpec } from '@/ui/fields'

describe('figures', () => {
  it.each([
    ['12', 12],
    ['12.5', 12.5],
    ['12,5', 12.5],
    [' 0,047 ', 0.047],
    ['0.200', 0.2],
    ['1234,567', 1234.567],
    ['-5', -5],
    ['1e3', 1000],
  ])('%s', (text, number) => expect(typedNumber(text)).toBe(number))

  it.each(['1,200', '1.200', '10,000', '-1,200', '+999.999', 'abc', '12 V', '1,2,3', '--1'])(
    '%s is open or no number: the core tells or asks',
    (text) => expect(typedNumber(text)).toBeNaN(),
  )
})

describe('what is sent of a field', () => {
  const field = (kind: FieldSpec['kind']): FieldSpec => ({ name: 'x', label: 'X', kind })
  it.each([
    ['number', '12,5', 12.5],
    ['number', '1,200', '1,200'],
    ['number', 'abc', 'abc'],
    ['number', '', null],
    ['number', null, null],
    ['number', undefined, null],
    ['number', 0, 0],
    ['number-select', '3', 3],
    ['date', '2026-06-01', '2026-06-01'],
    ['date', '', null],
    ['check', undefined, false],
    ['check', true, true],
    ['text', null, ''],
    ['text', '  1,200 ', '  1,200 '],
    ['kept', null, null],
    ['kept', 7, 7],
  ] as const)('%s %s', (kind, typed, body) => expect(sent(field(kind), typed)).toBe(body))
})

describe('the fields of a form', () => {
  it('stand in the order they are declared in; one that is kept is not shown', () => {
    const fields = fieldsOf<{ title: string; serial: string; done: boolean }>({
      serial: { label: 'Serial' },
      title: { label: 'Title', kind: 'multiline' },
      done: 'kept',
    })
    expect(fields.map(({ name, kind }) => [name, kind])).toEqual([
      ['serial', undefined],
      ['title', 'multiline'],
      ['done', 'kept'],
    ])
  })
})
