import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { describe, expect, it, vi } from 'vitest'
import { createApp } from 'vue'
import { ProblemError, type Schemas } from '@/api/client'
import { useWrite, whenCodeAsked, type Headers, type Writer } from '@/api/write'

type Send = (input: { value: string }, headers: Headers) => Promise<string>
const problem = (status: number, ...errors: [string, string][]) =>
  new ProblemError({
    type: 'problem',
    title: '',
    status,
    detail: 'It is refused.',
    errors: errors.map(([field, sentence]) => ({ field, sentence })),
  } as Schemas['Problem'])

function writer(send: Send, answered?: () => void): Writer<{ value: string }, string> {
  let made!: Writer<{ value: string }, string>
  const app = createApp({ setup: () => ((made = useWrite(send, ['value'], answered)), () => null) })
  app.use(VueQueryPlugin, { queryClient: new QueryClient() })
  app.mount(document.createElement('div'))
  return made
}

describe('the key of a write', () => {
  it('stays while the same is sent again after a refusal, and is another for another', async () => {
    const send = vi.fn<Send>().mockRejectedValue(problem(503))
    const { write } = writer(send)
    for (const value of ['1', '1', '2']) await write({ value })
    const [first, again, other] = send.mock.calls.map(([, headers]) => headers['Idempotency-Key'])
    expect(first).toMatch(/^[0-9a-f]{32}$/)
    expect(again).toBe(first)
    expect(other).not.toBe(first)
  })

  it('is another for another file of the same name', async () => {
    const send = vi.fn<Send>().mockRejectedValue(problem(503))
    const { write } = writer(send)
    const at = (lastModified: number) => ({ file: new File(['x'], 'image.jpg', { lastModified }) }) as never
    for (const input of [at(1), at(1), at(2)]) await write(input)
    const [first, again, other] = send.mock.calls.map(([, headers]) => headers['Idempotency-Key'])
    expect([again === first, other === first]).toEqual([true, false])
  })

  it('is another once it was answered: the same reading taken twice is two', async () => {
    const send = vi.fn<Send>().mockResolvedValue('ok')
    const { write } = writer(send)
    await write({ value: '1' })
    await write({ value: '1' })
    expect(new Set(send.mock.calls.map(([, headers]) => headers['Idempotency-Key'])).size).toBe(2)
  })
})

describe('a write under way', () => {
  it('is pressed twice and sent once', async () => {
    const send = vi.fn<Send>().mockResolvedValue('ok')
    const { write, pending } = writer(send)
    const [first, second] = [write({ value: '1' }), write({ value: '1' })]
    expect(pending.value).toBe(true)
    expect([await first, await second]).toEqual(['ok', undefined])
    expect(send).toHaveBeenCalledTimes(1)
    expect(pending.value).toBe(false)
  })
})

describe('what went wrong', () => {
  it('stands at its field, and elsewhere what no field shows', async () => {
    const send = vi.fn<Send>().mockRejectedValue(problem(422, ['value', 'A number.'], ['meter', 'Which meter?']))
    const { write, at, general } = writer(send)
    await write({ value: 'x' })
    expect([at('value'), at('meter'), general.value]).toEqual(['A number.', 'Which meter?', 'Which meter?'])
  })

  it('is said as a whole where no field is named, and gone when it was mended', async () => {
    const send = vi.fn<Send>().mockRejectedValueOnce(problem(409)).mockResolvedValue('ok')
    const { write, general } = writer(send)
    await write({ value: 'x' })
    expect(general.value).toBe('It is refused.')
    await write({ value: 'y' })
    expect(general.value).toBe('')
  })
})

describe('a signature', () => {
  it.each([
    [true, 2],
    [false, 1],
  ])('is sent again once its code was given: %s', async (given, times) => {
    const send = vi
      .fn<Send>()
      .mockRejectedValueOnce(problem(403, ['code', 'Type a code.']))
      .mockResolvedValue('ok')
    whenCodeAsked(() => Promise.resolve(given))
    const { write, problem: left } = writer(send)
    expect(await write({ value: '1' })).toBe(given ? 'ok' : undefined)
    expect(send).toHaveBeenCalledTimes(times)
    expect(left.value === null).toBe(given)
  })
})
