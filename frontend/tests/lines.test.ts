import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, nextTick } from 'vue'
import { ProblemError } from '@/api/client'
import { linesUnsent, useLines, type Lines } from '@/api/lines'
import type { Headers } from '@/api/write'

type Send = (line: string, headers: Headers) => Promise<string>
const problem = (status: number, type = 'problem') =>
  new ProblemError({
    type,
    title: '',
    status,
    detail: 'It is refused.',
    errors: [],
    current: null,
  })

function lines(send: Send, refused?: (one: { key: string }) => void) {
  let made!: Lines<string>
  const app = createApp({ setup: () => ((made = useLines('lines of a test', send, undefined, refused)), () => null) })
  const queryClient = new QueryClient()
  queryClient.setQueryData(['session'], { id: 'm1' })
  app.use(VueQueryPlugin, { queryClient })
  app.mount(document.createElement('div'))
  return { ...made, leave: () => app.unmount(), signIn: (id: string) => queryClient.setQueryData(['session'], { id }) }
}
const settled = () => new Promise((done) => setTimeout(done, 5))
const said = (one: Lines<string>) => one.entered.value.map((row) => row.line)

beforeEach(() => localStorage.clear())

describe('lines entered faster than they are answered', () => {
  it('are handed on as they are entered, for the outbox to send in turn, each once, under a key of its own', async () => {
    const free: (() => void)[] = []
    const send = vi.fn<Send>(() => new Promise((done) => free.push(() => done('ok'))))
    const list = lines(send)
    for (const line of ['a', 'b', 'c']) list.put(line)
    expect(send).toHaveBeenCalledTimes(3)
    expect(said(list)).toEqual(['a', 'b', 'c'])
    for (const k of [0, 1, 2]) {
      free[k]?.()
      await settled()
    }
    expect(send.mock.calls.map(([line]) => line)).toEqual(['a', 'b', 'c'])
    expect(new Set(send.mock.calls.map(([, headers]) => headers['Idempotency-Key'])).size).toBe(3)
    expect(said(list)).toEqual([])
  })

  it('go on behind one that is refused, which waits to be mended', async () => {
    const send = vi.fn<Send>((line) => (line === 'b' ? Promise.reject(problem(422)) : Promise.resolve('ok')))
    const refused = vi.fn()
    const list = lines(send, refused)
    for (const line of ['a', 'b', 'c']) list.put(line)
    await settled()
    expect(send).toHaveBeenCalledTimes(3)
    expect(said(list)).toEqual(['b'])
    expect(refused).toHaveBeenCalledTimes(1)
    expect(list.entered.value[0]?.refused?.detail).toBe('It is refused.')
    expect(list.mend(list.entered.value[0]?.key ?? '')).toBe('b')
    expect(said(list)).toEqual([])
  })

  it('outlive a reload under the same key, and wait for their member', async () => {
    const away = vi.fn<Send>().mockRejectedValue(problem(401))
    const before = lines(away)
    before.put('a')
    before.put('b')
    await settled()
    await nextTick()
    expect(away).toHaveBeenCalledTimes(2)
    before.leave()
    const back = vi.fn<Send>().mockResolvedValue('ok')
    const after = lines(back)
    await settled()
    expect(back.mock.calls.map(([line]) => line)).toEqual(['a', 'b'])
    expect(back.mock.calls[0]?.[1]).toEqual(away.mock.calls[0]?.[1])
    expect(said(after)).toEqual([])
  })

  it('leave the list where the outbox keeps them', async () => {
    const list = lines(vi.fn<Send>().mockRejectedValue(problem(0, 'queued')))
    list.put('a')
    await settled()
    expect(said(list)).toEqual([])
  })

  it('are sent by nobody but who entered them, and are counted until they are', async () => {
    const free: (() => void)[] = []
    const send = vi.fn<Send>(() => new Promise((done) => free.push(() => done('ok'))))
    const list = lines(send)
    list.put('a')
    await nextTick()
    list.signIn('m2')
    for (const line of ['b', 'c']) list.put(line)
    await nextTick()
    expect([linesUnsent('m1'), linesUnsent('m2')]).toEqual([3, 0])
    free[0]?.()
    await settled()
    expect(send).toHaveBeenCalledTimes(1)
    expect(said(list)).toEqual(['b', 'c'])
    expect(linesUnsent('m1')).toBe(2)
  })
})
