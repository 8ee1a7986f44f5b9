import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Waiting } from '@/api/outbox'

/** What the page keeps of jobs, and what it puts to the server in its worker. */
const JOB = '11111111-1111-4111-8111-111111111111'
const OTHER = '22222222-2222-4222-8222-222222222222'
const ofJob = (job: string) => `/api/jobs/${job}/kept`
const pageOf = (job: string) => ['', 'jobs', job, 'found'].join('/')
const store = new Map<string, Response>()
const name = (key: Request | string) => new URL(typeof key === 'string' ? key : key.url, 'http://here').pathname
const cache = {
  match: (key: string) => Promise.resolve(store.get(key)?.clone()),
  put: (key: string, response: Response) => Promise.resolve(void store.set(key, response)),
  delete: (key: Request | string) => Promise.resolve(store.delete(name(key))),
  keys: () => Promise.resolve([...store.keys()].map((key) => ({ url: `http://here${key}` }))),
}
const put = vi.fn<(asked: { text: string }) => Promise<string>>()
vi.mock('@/api/device/work', async (original) => ({ ...(await original<object>()), put }))

let heads: Record<string, string>
let entries = 3
const server = vi.fn((url: string) => {
  const body =
    url === '/api/kept'
      ? { rules: '7', at: new Date(Date.now() + 60_000).toISOString(), time_zone: 'UTC', rows: ['w'], jobs: heads }
      : { rows: ['j'], entries, head: heads[url.split('/')[3] ?? ''] }
  return Promise.resolve(Response.json(body))
})
const fetched = () => server.mock.calls.map(([url]) => url)
let ground: typeof import('@/api/device/ground')
let device: typeof import('@/api/device/ready')

beforeEach(async () => {
  localStorage.clear()
  store.clear()
  heads = { [JOB]: 'a' }
  entries = 3
  put.mockReset()
  server.mockClear()
  vi.stubGlobal('fetch', server)
  vi.stubGlobal('caches', { open: () => Promise.resolve(cache), match: () => Promise.resolve(undefined) })
  vi.resetModules()
  ground = await import('@/api/device/ground')
  device = await import('@/api/device/ready')
})
const of = (job: string, begun = false) => ground.groundOf(job, 'm', begun)

const row = (key: string, url = `/api/jobs/${JOB}/found`, more: Partial<Waiting> = {}): Waiting => ({
  member: 'm',
  key,
  method: 'POST',
  url,
  body: '{}',
  at: new Date().toISOString(),
  about: pageOf(JOB),
  seen: 3,
  ...more,
})

describe('what is kept', () => {
  it('is the workshop and each job in hand, fetched once until its record went on', async () => {
    await ground.keepGround()
    await ground.keepGround()
    expect(fetched()).toEqual(['/api/kept', ofJob(JOB), '/api/kept'])
    heads = { [JOB]: 'b', [OTHER]: 'c' }
    await ground.keepGround()
    expect(fetched().slice(3)).toEqual(['/api/kept', ofJob(JOB), ofJob(OTHER)])
    heads = { [OTHER]: 'c' }
    await ground.keepGround()
    expect(store.has(ofJob(JOB))).toBe(false)
  })

  it('says what the server is to stand on, and how far its clock was ahead', async () => {
    expect(await of(JOB)).toBeNull()
    await ground.keepGround()
    const given = JSON.parse((await of(JOB))?.text ?? '') as Record<string, unknown>
    expect(given).toMatchObject({ member_id: 'm', workshop: { rows: ['w'] }, job: { rows: ['j'], entries: 3 } })
    expect(given.ahead_s).toBeCloseTo(60, 0)
    expect(await of(OTHER)).toBeNull()
    expect(JSON.parse((await of(OTHER, true))?.text ?? '')).toMatchObject({ job: null })
  })

  it('is not used where more of the record was seen', async () => {
    await ground.keepGround()
    const { seenEntries } = await import('@/api/seen')
    seenEntries.value = 3
    expect(await of(JOB)).not.toBeNull()
    seenEntries.value = 4
    expect(await of(JOB)).toBeNull()
  })

  it('is not used from the sending of a write until it was kept anew, nor after the page was closed meanwhile', async () => {
    await ground.keepGround()
    ground.beforeWriting(row('k'))
    expect(await of(JOB)).toBeNull()
    expect(await of(OTHER, true)).not.toBeNull()
    await ground.keepGround() // the write is on its way: what is fetched now may be from before it
    expect(await of(JOB)).toBeNull()
    vi.resetModules()
    ground = await import('@/api/device/ground')
    expect(await of(JOB)).toBeNull()
    await ground.keepGround()
    expect(await of(JOB)).not.toBeNull()
  })

  it('stands where the write is known to wait here, and is fetched anew once it was done', async () => {
    await ground.keepGround()
    ground.beforeWriting(row('k'))
    ground.notWritten('k')
    expect(await of(JOB)).not.toBeNull()
    ground.beforeWriting(row('k'))
    server.mockClear()
    ground.written('k')
    await vi.waitFor(async () => expect(await of(JOB)).not.toBeNull(), 4_000)
    expect(fetched()).toContain('/api/kept')
  })

  it('knows what was sent and not seen since, for as long as that is so', async () => {
    const { useUnsent } = await import('@/api/unsent')
    const { unanswered } = await import('@/api/offline')
    const says = () => useUnsent().unsent.value.map((one) => [one.says, one.to])
    await ground.keepGround()
    ground.beforeWriting(row('k', '/api/positions/1/charge', { body: '{"state":"energised"}' }))
    ground.beforeWriting(row('l'))
    ground.written('k')
    unanswered.value = new Date() // the connection goes with the answer
    expect(says()).toEqual([['energised', '1']])
    unanswered.value = null
    expect(says()).toEqual([])
    await ground.keepGround()
    unanswered.value = new Date()
    expect(says()).toEqual([])
    ground.beforeWriting(row('k', '/api/positions/1/charge', { body: '{"state":"energised"}' }))
    ground.readSince('k') // not from the server, which is away
    expect(says()).toEqual([['energised', '1']])
    unanswered.value = null
    ground.readSince('k')
    unanswered.value = new Date()
    expect([says(), await of(JOB)]).toEqual([[], null]) // seen, and what is kept is older still
    ground.beforeWriting(row('k', '/api/positions/1/charge', { body: '{"state":"energised"}' }))
    ground.forgetWritten('m')
    expect([says(), localStorage.getItem('ground in doubt')]).toEqual([[], '[]'])
  })

  it('has the time of the server, whatever this clock says', async () => {
    const { noteAnswer } = await import('@/api/offline')
    const { useUnsent } = await import('@/api/unsent')
    const later = () => (useUnsent().now.value - Date.now()) / 1000
    const at = (seconds: number, more = {}) =>
      noteAnswer(new Response('', { headers: { Date: new Date(Date.now() + seconds * 1000).toUTCString(), ...more } }))
    const near = (seconds: number) => expect(Math.abs(later() - seconds + 0.5)).toBeLessThan(0.6) // a Date has whole seconds
    at(2)
    near(2)
    at(-2) // an answer that took four
    near(2)
    at(4)
    near(4)
    at(-3) // seven are a clock that was put
    near(-3)
    at(3600)
    expect(Math.abs(later() - 3600)).toBeLessThan(2)
    at(-3600, { 'X-Seen-Last': '1' })
    noteAnswer(new Response('', { headers: { Date: 'nonsense' } }))
    noteAnswer(new Response(''))
    expect(Math.abs(later() - 3600)).toBeLessThan(2)
    vi.resetModules() // opened again without a server
    expect(Math.abs((await import('@/api/offline')).ahead.value / 1000 - 3600)).toBeLessThan(2)
  })

  it('is left as it is while something waits, and is none after a day', async () => {
    await ground.keepGround()
    ground.notWhile(() => true)
    server.mockClear()
    await ground.keepGround()
    expect(fetched()).toEqual([])
    vi.setSystemTime(Date.now() + 23 * 3_600_000)
    expect(await of(JOB)).not.toBeNull()
    vi.setSystemTime(Date.now() + 2 * 3_600_000)
    expect(await of(JOB)).toBeNull()
    vi.useRealTimers()
  })

  it('is told whose it is by the address or by the page', () => {
    expect(ground.jobAsked(`/api/jobs/${JOB}/sheet`, pageOf(OTHER))).toBe(JOB)
    expect(ground.jobAsked('/api/positions/1/readings', pageOf(OTHER))).toBe(OTHER)
    expect(ground.jobAsked('/api/jobs', '/')).toBe('')
  })
})

describe('what is asked of the server here', () => {
  const read = (writes: Waiting[], path = `/api/jobs/${JOB}/sheet`) =>
    device.readHere(new Request(`http://here${path}`), 'm', writes)
  const given = (call: number) =>
    JSON.parse(put.mock.calls[call]?.[0].text ?? '') as {
      ground: object | null
      requests: { url: string; headers: Record<string, string> }[]
    }
  const keys = (call: number) => given(call).requests.map((one) => one.headers['Idempotency-Key'])
  const answers = (...statuses: number[]) =>
    put.mockResolvedValueOnce(
      JSON.stringify({ rules: '7', answers: statuses.map((status) => ({ status, body: { status } })) }),
    )
  beforeEach(() => ground.keepGround())

  it('comes after what waits, each put to it once, and says with which it was worked out', async () => {
    answers(200, 409, 200)
    const { writtenWithin, markWorked, workedHere } = await import('@/api/device/index')
    const found = await read([row('a'), row('b')])
    expect(keys(0)).toEqual(['a', 'b', undefined])
    expect(given(0).ground).not.toBeNull()
    expect(given(0).requests[0]?.headers['Seen-Entries']).toBe('3')
    const marked = markWorked({}, found as Response)
    expect(writtenWithin(marked)).toEqual(['a'])
    expect(workedHere(marked)).toMatch(/^Worked out on this device\. Kept from the server at \d\d:\d\d\.$/)
    answers(200, 200)
    await read([row('a'), row('b'), row('c')])
    expect([given(1).ground, keys(1)]).toEqual([null, ['c', undefined]])
  })

  it('begins anew where one of them was taken out, where something newer was kept, and where it broke', async () => {
    answers(200, 200, 200)
    await read([row('a'), row('b')])
    answers(200, 200)
    await read([row('b')])
    expect([given(1).ground === null, keys(1)]).toEqual([false, ['b', undefined]])
    heads = { [JOB]: 'b' }
    await new Promise((resolve) => setTimeout(resolve, 2)) // kept at another time
    await ground.keepGround()
    answers(200, 200)
    await read([row('b')])
    expect(given(2).ground).not.toBeNull()
    put.mockRejectedValueOnce(new TypeError('it ended'))
    expect(await read([row('b')])).toBeUndefined()
    answers(200, 200)
    await read([row('b')])
    expect(given(4).ground).not.toBeNull()
  })

  it('is of this job alone, and of jobs begun here; what was refused is left out', async () => {
    answers(200, 200, 200)
    const elsewhere = row('x', `/api/jobs/${OTHER}/found`, { about: pageOf(OTHER) })
    await read([row('new', '/api/jobs', { about: '/' }), elsewhere, row('no', undefined, { refused: 'no' }), row('a')])
    expect(keys(0)).toEqual(['new', 'a', undefined])
  })

  it('is no answer where it needs the server, and is not asked what is not about a job', async () => {
    answers(503)
    expect(await read([])).toBeUndefined()
    expect(await read([], '/api/parts')).toBeUndefined()
    expect(put).toHaveBeenCalledTimes(1)
  })

  it('answers a write with what it came to, or with what cannot be read of it; else it only waits', async () => {
    expect(await device.writeHere(row('a'), [])).toBeUndefined() // not open yet
    answers(200)
    await read([])
    answers(200)
    expect((await device.writeHere(row('a'), [row('a')]))?.status).toBe(200)
    expect(keys(1)).toEqual(['a'])
    answers(422)
    expect((await device.writeHere(row('b'), [row('a')]))?.status).toBe(422)
    for (const status of [403, 404, 409, 500, 503]) {
      answers(200, status)
      expect(await device.writeHere(row(`c${status}`), [row('a')])).toBeUndefined()
    }
  })

  it('asks again by its key where the write was put to it by a read before', async () => {
    answers(200, 200)
    await read([row('a')])
    answers(200)
    expect((await device.writeHere(row('a'), [row('a')]))?.status).toBe(200)
    expect(keys(1)).toEqual(['a'])
  })
})
