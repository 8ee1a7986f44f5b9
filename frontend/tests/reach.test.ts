import { expect, test } from 'vitest'
import { lettersFor } from '@/app/reach'

test.each([0, 1, 7, 22, 23, 24, 60, 300, 500])(
  'of %i controls each has letters of its own, and none begins another',
  (count) => {
    const letters = lettersFor(count)
    expect(letters).toHaveLength(count)
    expect(new Set(letters).size).toBe(count)
    for (const one of letters) {
      expect(one).toMatch(/^[a-z]{1,2}$/)
      expect(letters.filter((other) => other.startsWith(one))).toEqual([one])
    }
  },
)

test('the first have one letter only, as many as can', () => {
  expect(lettersFor(23).every((one) => one.length === 1)).toBe(true)
  const many = lettersFor(60)
  expect(many.slice(0, 21).every((one) => one.length === 1)).toBe(true)
  expect(many.slice(21).every((one) => one.length === 2)).toBe(true)
})
