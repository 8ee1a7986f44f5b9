import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, nextTick, reactive, ref } from 'vue'
import { useHalfTyped, useKept } from '@/api/kept'
import { forgetTyped, keepFor } from '@/api/offline'
import { sheetOf } from '@/features/job/stages'

/** A form of a member: what it holds, and what ends its draft. */
const blank = () => reactive({ title: '', serial: '' })
function form(member: string, name = 'new job', typed: object = blank(), minutes?: number, since = 0) {
  const queries = new QueryClient()
  queries.setQueryData(['session'], { id: member })
  let kept = { forget: () => {} }
  let half: ReturnType<typeof useHalfTyped> = () => false
  const app = createApp({
    setup: () => ((kept = useKept(name, typed, minutes, () => since)), (half = useHalfTyped()), () => null),
  })
  app.use(VueQueryPlugin, { queryClient: queries })
  app.mount(document.createElement('div'))
  return { typed: typed as ReturnType<typeof blank>, forget: () => kept.forget(), half, close: () => app.unmount() }
}

beforeEach(() => localStorage.clear())

describe('what is half typed', () => {
  it('is there again after the tab was closed', async () => {
    const first = form('orne')
    first.typed.title = 'Pump'
    await nextTick()
    first.close()
    expect(form('orne').typed).toEqual({ title: 'Pump', serial: '' })
  })

  it('belongs to who typed it, and to its form', async () => {
    form('orne').typed.title = 'Pump'
    await nextTick()
    expect(form('vell').typed.title).toBe('')
    expect(form('orne', 'new meter').typed.title).toBe('')
  })

  it('is gone once it was sent, and once it was emptied', async () => {
    const first = form('orne')
    first.typed.title = 'Pump'
    await nextTick()
    first.forget()
    expect(form('orne').typed.title).toBe('')
    first.typed.title = 'Fan'
    await nextTick()
    first.typed.title = ''
    await nextTick()
    expect(localStorage).toHaveLength(0)
  })

  it('is not there again where it was sent after its form was closed', async () => {
    const first = form('orne')
    first.typed.title = 'Pump'
    await nextTick()
    first.close()
    const second = form('orne')
    expect(second.typed.title).toBe('Pump')
    first.typed.title = '' // its answer came
    await nextTick()
    await nextTick()
    expect(second.typed.title).toBe('')
    expect(localStorage).toHaveLength(0)
  })

  it('stays where more was typed meanwhile', async () => {
    const first = form('orne')
    first.typed.title = 'Pump'
    await nextTick()
    first.close()
    const second = form('orne')
    second.typed.title = 'Pump, again'
    await nextTick()
    first.typed.title = ''
    await nextTick()
    await nextTick()
    expect(second.typed.title).toBe('Pump, again')
    expect(form('orne').typed.title).toBe('Pump, again')
  })

  it('is not what the form fills in by itself', async () => {
    const first = form('orne', 'reading p1')
    first.typed.serial = '120 Hz'
    first.forget()
    await nextTick()
    expect(first.half('p1')).toBe(false)
    first.typed.title = '12'
    await nextTick()
    expect(first.half('p1')).toBe(true)
    first.typed.title = ''
    await nextTick()
    expect(first.half('p1')).toBe(false)
  })

  it.each([
    [13.9, 'Pump'],
    [14.1, ''],
  ])('is kept for fourteen days: %d', async (days, title) => {
    form('orne').typed.title = 'Pump'
    await nextTick()
    vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + days * 86_400_000 })
    expect(form('orne').typed.title).toBe(title)
    vi.useRealTimers()
  })

  it('may be refs put together', async () => {
    const note = ref('')
    form('orne', 'note', reactive({ note }))
    note.value = 'hums'
    await nextTick()
    expect(JSON.parse(localStorage.getItem('typed orne note') ?? '')).toMatchObject({ typed: { note: 'hums' } })
  })

  it('holds no longer than what it is since, nor longer than its minutes', async () => {
    const begin = async () => {
      form('orne', 'proof', blank(), 10, 7).typed.title = '0'
      await nextTick()
    }
    await begin()
    expect(form('orne', 'proof', blank(), 10, 7).typed.title).toBe('0')
    expect(form('orne', 'proof', blank(), 10, 8).typed.title).toBe('') // somebody said something newer
    expect(form('orne', 'proof', blank(), 10, 7).typed.title).toBe('')
    await begin()
    vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + 10.1 * 60_000 })
    expect(form('orne', 'proof', blank(), 10, 7).typed.title).toBe('')
    vi.useRealTimers()
  })

  it('is said of its job and position, and not after it was let go', async () => {
    history.replaceState(null, '', sheetOf('j1', 'assess').path)
    const said = form('orne', 'reading p1')
    said.typed.title = '73'
    await nextTick()
    const { half } = said
    expect([half('j1'), half('p1'), half('p2')]).toEqual([true, true, false])
    expect(form('vell', 'elsewhere').half('p1')).toBe(false)
    forgetTyped()
    expect(half('p1')).toBe(false)
    history.replaceState(null, '', '/')
  })

  it('that cannot be read is left out', () => {
    localStorage.setItem('typed orne new job', '{"at":')
    expect(form('orne').typed.title).toBe('')
  })
})

describe('another member', () => {
  it('finds nothing typed by the one before; what waits to be sent stays', async () => {
    for (const key of ['typed orne new job', 'typed vell new job', 'outbox', 'theme']) localStorage.setItem(key, '[]')
    await keepFor('vell')
    expect(Object.keys(localStorage).sort()).toEqual(['outbox', 'seen by', 'theme', 'typed vell new job'])
    await keepFor('vell') // the same again forgets nothing
    forgetTyped()
    expect(Object.keys(localStorage).sort()).toEqual(['outbox', 'seen by', 'theme'])
  })
})
