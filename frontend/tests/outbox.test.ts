import { beforeEach, describe, expect, it, vi } from 'vitest'

/** What a browser keeps files in. */
const filed = new Map<string, unknown>()
vi.mock('idb-keyval', () => ({
  createStore: () => filed,
  set: (key: string, value: unknown) => Promise.resolve(filed.set(key, value)),
  get: (key: string) => Promise.resolve(filed.get(key)),
  del: (key: string) => Promise.resolve(filed.delete(key)),
  keys: () => Promise.resolve([...filed.keys()]),
}))

/** Locks as a browser gives them: each in its turn. */
let last = Promise.resolve()
const locks = { request: (_: string, work: () => Promise<void>) => (last = last.then(work, work)) }
const answer = (status: number, body: object = {}) => new Response(JSON.stringify(body), { status })
const write = (key: string, path = '/api/positions/1/readings', more: RequestInit = {}) =>
  new Request(`http://here${path}`, {
    method: 'POST',
    body: JSON.stringify({ value: key }),
    headers: { 'Idempotency-Key': key, 'Content-Type': 'application/json' },
    ...more,
  })
type Outbox = typeof import('@/api/outbox')
let outbox: Outbox
const server = vi.fn<(request: Request | string, init?: RequestInit) => Promise<Response>>()
const kept = () =>
  JSON.parse(localStorage.getItem('outbox') ?? '[]') as {
    key: string
    refused?: string
    after?: string[]
    file?: object
  }[]
const keyOf = (sent: Request | RequestInit | undefined) => new Headers(sent?.headers).get('Idempotency-Key')
const keys = () => server.mock.calls.map(([request, init]) => keyOf(request instanceof Request ? request : init))

async function asMember(id: string): Promise<void> {
  vi.resetModules()
  outbox = await import('@/api/outbox')
  outbox.sendFor(id, () => 'token')
  await outbox.flush()
}

beforeEach(async () => {
  localStorage.clear()
  server.mockReset().mockRejectedValue(new TypeError('cut'))
  vi.stubGlobal('fetch', server)
  Object.defineProperty(navigator, 'locks', { value: locks, configurable: true })
  await asMember('orne')
  server.mockClear()
})

describe('a write that gets no answer', () => {
  it('waits, and is sent once with its own key when the server is back', async () => {
    await expect(outbox.fetchOrKeep(write('a'))).rejects.toBeInstanceOf(outbox.QueuedError)
    expect(kept().map((row) => row.key)).toEqual(['a'])
    server.mockClear().mockResolvedValue(answer(200))
    await outbox.flush()
    await outbox.flush()
    expect(keys()).toEqual(['a'])
    expect(kept()).toEqual([])
  })

  it.each([502, 503, 504])('waits as well when something before the server answers %i', async (status) => {
    server.mockResolvedValue(answer(status))
    await expect(outbox.fetchOrKeep(write('a'))).rejects.toBeInstanceOf(outbox.QueuedError)
    await outbox.flush()
    expect(kept().map((row) => row.key)).toEqual(['a'])
  })

  it('waits where a server hangs, after longer than that works on an answer', async () => {
    vi.useFakeTimers()
    server.mockImplementation(
      (_, init) =>
        new Promise((_, reject) => {
          init?.signal?.addEventListener('abort', () => reject(new DOMException('late', 'AbortError')))
        }),
    )
    const sent = expect(outbox.fetchOrKeep(write('a'))).rejects.toBeInstanceOf(outbox.QueuedError)
    await vi.advanceTimersByTimeAsync(30_000)
    expect(kept()).toEqual([])
    await vi.advanceTimersByTimeAsync(5_000)
    await sent
    expect(kept().map((row) => row.key)).toEqual(['a'])
    vi.useRealTimers()
  })

  it('does not overtake the one typed before it, and says when it was typed where it waited for that', async () => {
    vi.useFakeTimers()
    const answers: ((response: Response) => void)[] = []
    server.mockImplementation(() => new Promise((resolve) => answers.push(resolve)))
    const sent = ['a', 'b', 'c'].map((key) => outbox.fetchOrKeep(write(key)))
    await vi.advanceTimersByTimeAsync(1_000)
    expect(keys()).toEqual(['a'])
    answers[0]?.(answer(200))
    await vi.advanceTimersByTimeAsync(3_000)
    expect(keys()).toEqual(['a', 'b'])
    answers[1]?.(answer(200))
    await vi.advanceTimersByTimeAsync(0)
    answers[2]?.(answer(200))
    await Promise.all(sent)
    const waited = server.mock.calls.map(([request]) => (request as Request).headers.get('Waited-Seconds'))
    expect(waited.map((seconds) => seconds && Math.round(Number(seconds)))).toEqual([null, null, 4])
    vi.useRealTimers()
  })

  it('outlives a page that is closed before its answer, and goes by the same key', async () => {
    let end: (response: Response) => void = () => undefined
    server.mockImplementation(() => new Promise((resolve) => (end = resolve)))
    const sent = outbox.fetchOrKeep(write('a'))
    await vi.waitFor(() => expect(keys()).toEqual(['a']))
    server.mockReset().mockResolvedValue(answer(200))
    await asMember('orne')
    expect(keys()).toEqual(['a'])
    expect(kept()).toEqual([])
    end(answer(200))
    await sent
    await asMember('orne')
    expect(keys()).toEqual(['a'])
  })

  it.each(['busy', 'too-long'])('is an answer where the server itself says that it is %s', async (type) => {
    server.mockResolvedValue(answer(503, { type, detail: 'Somebody else is at it.' }))
    expect((await outbox.fetchOrKeep(write('a'))).status).toBe(503)
    expect(kept()).toEqual([])
  })

  it.each([
    ['busy', [{ key: 'a', refused: undefined }], 2],
    ['too-long', [{ key: 'a', refused: 'It takes too long.' }], 1],
  ])('that waited and finds the server %s', async (type, rows, sent) => {
    await outbox.fetchOrKeep(write('a')).catch(() => {})
    server.mockClear().mockImplementation(() => Promise.resolve(answer(503, { type, detail: 'It takes too long.' })))
    await outbox.flush()
    await outbox.flush()
    expect(kept().map(({ key, refused }) => ({ key, refused }))).toEqual(rows)
    expect(server).toHaveBeenCalledTimes(sent)
  })

  it('that was done so long ago that its answer is gone is done, and goes', async () => {
    await outbox.fetchOrKeep(write('a')).catch(() => {})
    server.mockClear().mockResolvedValue(answer(409, { type: 'done', detail: 'This was written on 3 May 2026.' }))
    await outbox.flush()
    expect(kept()).toEqual([])
    await outbox.fetchOrKeep(write('b')).catch(() => {})
    expect(kept()).toEqual([])
  })

  it('speaks until what follows from it was read from the server, and is done once by its key', async () => {
    await outbox.fetchOrKeep(write('a')).catch(() => {})
    const { noteAnswer } = await import('@/api/offline')
    let seenLast = true
    outbox.whenSent(() => noteAnswer(new Response('', { headers: seenLast ? { 'X-Seen-Last': '1' } : {} })))
    server.mockClear().mockImplementation(() => Promise.resolve(answer(200)))
    await outbox.flush()
    expect(kept().map((row) => row.key)).toEqual(['a'])
    seenLast = false
    await outbox.flush()
    expect([keys(), kept()]).toEqual([['a', 'a'], []])
  })

  it('is kept once however often it is pressed', async () => {
    for (let press = 0; press < 3; press++) await outbox.fetchOrKeep(write('a')).catch(() => {})
    expect(kept()).toHaveLength(1)
  })

  it('says how long it waited and what its writer had seen', async () => {
    vi.useFakeTimers({ toFake: ['Date'], now: new Date('2026-06-01T10:00:00Z') })
    const { seenEntries } = await import('@/api/seen')
    seenEntries.value = 7
    ;(await import('@/api/offline')).ahead.value = 5000
    await outbox.fetchOrKeep(write('a')).catch(() => {})
    vi.setSystemTime(new Date('2026-06-01T10:01:30Z'))
    server.mockClear().mockResolvedValue(answer(200))
    await outbox.flush()
    vi.useRealTimers()
    const headers = server.mock.calls[0]?.[1]?.headers as Record<string, string>
    expect([headers['Waited-Seconds'], headers['Seen-Entries'], headers['X-CSRFToken']]).toEqual(['90', '7', 'token'])
    expect(new Date(Number(headers['Sent-At'])).toISOString()).toBe('2026-06-01T10:01:35.000Z')
  })

  it('names what its writer wrote before and has not seen in the record yet', async () => {
    server.mockClear().mockImplementation(() => Promise.resolve(answer(200)))
    await outbox.fetchOrKeep(write('a'))
    await outbox.fetchOrKeep(write('b'))
    outbox.landed('a')
    server.mockRejectedValue(new TypeError('cut'))
    await outbox.fetchOrKeep(write('c')).catch(() => {})
    expect(kept().map(({ key, after }) => ({ key, after }))).toEqual([{ key: 'c', after: ['b'] }])
    server.mockClear().mockResolvedValue(answer(200))
    await outbox.flush()
    expect(new Headers(server.mock.calls[0]?.[1]?.headers).get('After-Writes')).toBe('b')
  })
})

describe('order', () => {
  it('is that of the hands: what comes later waits behind what waits', async () => {
    for (const key of ['a', 'b', 'c']) await outbox.fetchOrKeep(write(key)).catch(() => {})
    server.mockClear().mockResolvedValue(answer(200))
    await outbox.fetchOrKeep(write('d'))
    expect(keys()).toEqual(['a', 'b', 'c', 'd'])
  })

  it('stops at the first that gets no answer', async () => {
    for (const key of ['a', 'b', 'c']) await outbox.fetchOrKeep(write(key)).catch(() => {})
    server.mockReset().mockResolvedValueOnce(answer(200)).mockRejectedValue(new TypeError('cut'))
    await outbox.flush()
    expect(kept().map((row) => row.key)).toEqual(['b', 'c'])
  })

  it('goes on behind one that is refused, which stays with its sentence', async () => {
    for (const key of ['a', 'b']) await outbox.fetchOrKeep(write(key)).catch(() => {})
    server
      .mockReset()
      .mockResolvedValueOnce(answer(422, { detail: 'No such meter.' }))
      .mockResolvedValue(answer(200))
    await outbox.flush()
    expect(kept()).toMatchObject([{ key: 'a', refused: 'No such meter.' }])
    await outbox.flush()
    expect(server).toHaveBeenCalledTimes(2) // a refused one is not sent again by itself
  })
})

describe('whose it is', () => {
  it('is sent by its own member alone', async () => {
    await outbox.fetchOrKeep(write('a')).catch(() => {})
    server.mockReset().mockResolvedValue(answer(200))
    await asMember('vell')
    expect(server).not.toHaveBeenCalled()
    expect(outbox.waiting.value).toEqual([])
    await asMember('orne')
    expect(keys()).toEqual(['a'])
  })

  it.each([
    ['is kept for its member, who is another than who sends now', false, ['b']],
    ['goes with its member who signs out while it waits for its turn', true, []],
  ])('%s', async (_, out, left) => {
    let free = () => {}
    server.mockClear().mockImplementation(() => new Promise((done) => (free = () => done(answer(200)))))
    const first = outbox.fetchOrKeep(write('a'))
    const second = outbox.fetchOrKeep(write('b')).catch((error: unknown) => error)
    await vi.waitFor(() => expect(server).toHaveBeenCalled())
    if (out) outbox.dropAll('orne')
    outbox.sendFor('vell', () => 'token')
    free()
    await first
    expect(await second).toBeInstanceOf(outbox.QueuedError)
    expect([keys(), kept().map((row) => row.key)]).toEqual([['a'], left])
  })

  it('is kept while the session has ended', async () => {
    await outbox.fetchOrKeep(write('a')).catch(() => {})
    server.mockReset().mockResolvedValue(answer(401))
    await outbox.flush()
    expect(kept()).toHaveLength(1)
    expect(kept()[0]?.refused).toBeUndefined()
  })

  it('goes with a member who signs out, and nobody else’s', async () => {
    await outbox.fetchOrKeep(write('a')).catch(() => {})
    await asMember('vell')
    await outbox.fetchOrKeep(write('b')).catch(() => {})
    outbox.dropAll('vell')
    expect(kept().map((row) => row.key)).toEqual(['a'])
  })
})

describe('a photo', () => {
  const left = () => [...filed.keys()]
  const photo = (key: string, caption = 'TB1') => {
    const form = new FormData()
    form.append('photo', new File([`picture ${key}`], `${key}.jpg`, { type: 'image/jpeg' }))
    form.append('caption', caption)
    return new Request('http://here/api/jobs/1/photos', {
      method: 'POST',
      body: form,
      headers: { 'Idempotency-Key': key },
    })
  }
  const said = async (call: number) => {
    const form = server.mock.calls[call]?.[1]?.body as FormData
    return [await (form.get('photo') as File).text(), (form.get('photo') as File).name, form.get('caption')]
  }
  beforeEach(() => filed.clear())

  it('waits with what it is of, and is sent once, with its own time', async () => {
    await expect(outbox.fetchOrKeep(photo('p'))).rejects.toBeInstanceOf(outbox.QueuedError)
    await expect(outbox.fetchOrKeep(photo('q', 'J3'))).rejects.toBeInstanceOf(outbox.QueuedError)
    expect([left(), kept().map((row) => row.file)]).toEqual([
      ['p', 'q'],
      [
        { name: 'p.jpg', size: 9 },
        { name: 'q.jpg', size: 9 },
      ],
    ])
    server.mockClear().mockImplementation(() => Promise.resolve(answer(200)))
    await outbox.flush()
    await outbox.flush()
    expect([await said(0), await said(1)]).toEqual([
      ['picture p', 'p.jpg', 'TB1'],
      ['picture q', 'q.jpg', 'J3'],
    ])
    const headers = new Headers(server.mock.calls[0]?.[1]?.headers)
    expect([keys(), headers.has('Waited-Seconds'), headers.has('Content-Type')]).toEqual([['p', 'q'], true, false])
    expect(kept()).toEqual([])
    await vi.waitFor(() => expect(left()).toEqual([]))
  })

  it('goes after those that were chosen before it', async () => {
    server.mockClear().mockImplementation(() => Promise.resolve(answer(200)))
    await Promise.all(['p', 'q', 'r', 's'].map((key) => outbox.fetchOrKeep(photo(key))))
    expect(keys()).toEqual(['p', 'q', 'r', 's'])
  })

  it('holds up nothing else, sent or waiting, and its time is when it was taken', async () => {
    let free = () => {}
    server.mockClear().mockImplementation((request) => {
      if (!(request instanceof Request && request.url.endsWith('photos'))) return Promise.resolve(answer(200))
      return new Promise((done) => (free = () => done(answer(200))))
    })
    const slow = outbox.fetchOrKeep(photo('p'))
    await vi.waitFor(() => expect(keys()).toEqual(['p']))
    expect((server.mock.calls[0]?.[0] as Request).headers.has('Waited-Seconds')).toBe(true)
    await outbox.fetchOrKeep(write('a'))
    free()
    await slow
    server.mockReset().mockRejectedValue(new TypeError('cut'))
    await outbox.fetchOrKeep(photo('q')).catch(() => {})
    await outbox.fetchOrKeep(write('b')).catch(() => {})
    server.mockClear().mockImplementation(() => Promise.resolve(answer(200)))
    await outbox.flush()
    expect(keys()).toEqual(['b', 'q'])
  })

  it('that is not kept any more says so, and goes with its member who signs out', async () => {
    for (const key of ['p', 'q']) await outbox.fetchOrKeep(photo(key)).catch(() => {})
    filed.clear()
    await outbox.fetchOrKeep(photo('r')).catch(() => {})
    server.mockClear().mockImplementation(() => Promise.resolve(answer(200)))
    outbox.discard('q')
    await outbox.flush()
    expect(keys()).toEqual(['r'])
    expect(kept()).toMatchObject([{ key: 'p', refused: expect.stringContaining('not kept') as string }])
    server.mockRejectedValue(new TypeError('cut'))
    await outbox.fetchOrKeep(photo('s')).catch(() => {})
    outbox.dropAll('orne')
    await vi.waitFor(() => expect(left()).toEqual([]))
  })

  it('for which there is no room is sent at once or stays where it is', async () => {
    vi.doMock('@/api/files', () => ({ keepFile: () => Promise.reject(new Error('full')), dropFile: () => {} }))
    await asMember('orne')
    const answered = await outbox.fetchOrKeep(photo('p'))
    vi.doUnmock('@/api/files')
    expect([answered.status, kept()]).toEqual([507, []])
  })
})

describe('what never waits', () => {
  it.each(['/api/session', '/api/members', '/api/members/1'])('a password: %s', async (path) => {
    await expect(outbox.fetchOrKeep(write('a', path))).rejects.toBeInstanceOf(TypeError)
    expect(localStorage.getItem('outbox') ?? '[]').toBe('[]')
  })

  it('a file, and a read', async () => {
    const file = write('a', '/api/job-file', { headers: { 'Idempotency-Key': 'a', 'Content-Type': 'image/jpeg' } })
    await expect(outbox.fetchOrKeep(file)).rejects.toBeInstanceOf(TypeError)
    await expect(outbox.fetchOrKeep(new Request('http://here/api/bench'))).rejects.toBeInstanceOf(TypeError)
    expect(kept()).toEqual([])
  })
})

describe('what is broken in the browser', () => {
  it.each(['{', 'null', '"x"', '{"a":1}'])(
    '%s does not keep the page from opening, and is not thrown away',
    async (text) => {
      localStorage.setItem('outbox', text)
      await asMember('orne')
      expect(outbox.waiting.value).toEqual([])
      await outbox.fetchOrKeep(write('a')).catch(() => {})
      expect(kept().map((row) => row.key)).toEqual(['a'])
      expect(localStorage.getItem('outbox, unreadable')).toBe(text)
    },
  )
})

describe('a browser without room', () => {
  it('says that nothing was kept', async () => {
    const full = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
    vi.stubGlobal('localStorage', { getItem: () => null, setItem: full, removeItem: full })
    const said = await outbox.fetchOrKeep(write('a'))
    vi.unstubAllGlobals()
    expect(said.status).toBe(507)
    expect(((await said.json()) as { detail: string }).detail).toContain('no room')
    expect(outbox.waiting.value).toEqual([])
  })
})

describe('what is sent and not read again', () => {
  const settled = () => new Promise((resolve) => setTimeout(resolve, 5))

  it('stands in the queue until what follows from it was read', async () => {
    await expect(outbox.fetchOrKeep(write('a'))).rejects.toBeInstanceOf(outbox.QueuedError)
    let read = () => {}
    outbox.whenSent(() => new Promise<void>((resolve) => (read = resolve)))
    server.mockClear().mockResolvedValue(answer(200))
    const flushed = outbox.flush()
    await settled()
    expect([keys(), kept().map((row) => row.key)]).toEqual([['a'], ['a']])
    read()
    await flushed
    expect(kept()).toEqual([])
  })

  it('is under way from its pressing until it has landed', async () => {
    let answered: (response: Response) => void = () => {}
    server.mockReset().mockReturnValue(new Promise((resolve) => (answered = resolve)))
    const sent = outbox.fetchOrKeep(write('a'))
    await settled()
    expect(outbox.underWay.value.map((row) => row.key)).toEqual(['a'])
    answered(answer(200))
    await sent
    expect(outbox.underWay.value.map((row) => row.key)).toEqual(['a'])
    outbox.landed('a')
    expect(outbox.underWay.value).toEqual([])
  })

  it('is told of by whomever it is', async () => {
    await expect(outbox.fetchOrKeep(write('a'))).rejects.toBeInstanceOf(outbox.QueuedError)
    await asMember('vell')
    expect([outbox.waiting.value.length, outbox.everybodys.value.map((row) => row.key)]).toEqual([0, ['a']])
  })
})
