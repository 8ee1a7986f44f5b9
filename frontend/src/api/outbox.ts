import { worksHere } from './device'
import { beforeWriting, forgetWritten, keepGround, notWhile, notWritten, readSince, written } from './device/ground'
import { beginsJob, readHere, ready, writeHere } from './device/ready'
import { computed, ref } from 'vue'
import { ahead, answersSeenLast, unanswered } from './offline'
import { knew, seenEntries } from './seen'

/** A write that could not be sent: kept in the browser, sent in order, and by its key done once however often it arrives. */
export interface Waiting {
  member: string
  key: string
  method: string
  url: string
  body: string
  at: string
  /** How many entries of the job's record its writer had seen. */
  seen?: number
  /** The keys of what its writer had written before and not seen in the record yet. */
  after?: string[]
  refused?: string
  /** The page it was written on, which names its job. */
  about?: string
  /** A photo, which is kept beside this by the same key; what goes with it is the body. */
  file?: { name: string; size: number }
  /** The job that it begins, as this device has named it, and as the server will. */
  begins?: string
}

const STORE = 'outbox'
const AGAIN_MS = 4_000
const REREAD_MS = 10_000
const NOT_THERE = [502, 503, 504]
const PHOTO = /^\/api\/jobs\/[^/]+\/photos$/
const files = () => import('./files')
const SECRET = /^\/api\/(session|members)/ // what carries a password is sent now or not at all
/** What waits; what cannot be read is laid aside, so that the page opens and nothing is thrown away. */
function read(): Waiting[] {
  const text = localStorage.getItem(STORE) ?? '[]'
  try {
    const kept: unknown = JSON.parse(text)
    if (Array.isArray(kept)) return kept as Waiting[]
  } catch {
    // laid aside below
  }
  localStorage.setItem(`${STORE}, unreadable`, text)
  localStorage.removeItem(STORE)
  return []
}
const ON_ITS_WAY = 'outbox, on its way'
function onItsWay(): Waiting[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(ON_ITS_WAY) ?? '[]')
    return Array.isArray(found) ? (found as Waiting[]) : []
  } catch {
    return []
  }
}
/** What is sent outlives a page that is closed before its answer: the next one sends it again, by its key. */
function noteOnItsWay(rows: Waiting[]): void {
  try {
    if (rows.length) localStorage.setItem(ON_ITS_WAY, JSON.stringify(rows))
    else localStorage.removeItem(ON_ITS_WAY)
  } catch {
    // no room: it is sent all the same
  }
}
const setOut = (row: Waiting) => noteOnItsWay([...onItsWay(), row])
const arrived = (key: string) => noteOnItsWay(onItsWay().filter((one) => one.key !== key))
function takeUp(): Waiting[] {
  const waits = read()
  const left = onItsWay().filter((one) => !waits.some((other) => other.key === one.key))
  if (!left.length) return waits
  localStorage.setItem(STORE, JSON.stringify([...waits, ...left]))
  localStorage.removeItem(ON_ITS_WAY)
  return read()
}
const all = ref<Waiting[]>(takeUp())
const member = ref('')
const flying = ref<Waiting[]>([])
let sent: (() => unknown)[] = []
let token: () => string = () => ''

/** What this member still has to send, and what was refused. */
export const waiting = computed(() => all.value.filter((one) => one.member === member.value))

/** What anybody has still to send from this browser: what it says of a charge holds, whoever is signed in. */
export const everybodys = computed(() => all.value)
/** What was sent and is not answered, or not read again since. */
export const underWay = computed(() => flying.value)
/** A write was answered, and what follows from it was read again. */
export function landed(key: string): void {
  readSince(key)
  flying.value = flying.value.filter((one) => one.key !== key)
}

/** The write waits in the browser: no answer yet, and nothing lost. */
export class QueuedError extends Error {}

function keep(change: (now: Waiting[]) => Waiting[]) {
  const then = change(read()) // another tab may have written since
  localStorage.setItem(STORE, JSON.stringify(then))
  all.value = then
}
window.addEventListener('storage', (event) => event.key === STORE && (all.value = read()))

export function sendFor(id: string, csrf: () => string): void {
  member.value = id
  token = csrf
  if (all.value.some((one) => one.file))
    void files().then(({ tidyFiles }) => tidyFiles(all.value.map((one) => one.key)))
  void flush()
}

/** Called after something that waited was sent; it stands until what the handler answers has come. */
export function whenSent(handler: () => unknown): () => void {
  sent.push(handler)
  return () => (sent = sent.filter((one) => one !== handler))
}

/** Drops what a member who signs out did not send. */
export function dropAll(id: string): void {
  const theirs = [...read(), ...onItsWay()].filter((one) => one.member === id)
  theirs.forEach(dropItsFile)
  keep((now) => now.filter((one) => one.member !== id))
  forgetWritten(id)
  noteOnItsWay(onItsWay().filter((one) => one.member !== id))
}

export function discard(key: string): void {
  read()
    .filter((one) => one.key === key)
    .forEach(dropItsFile)
  keep((now) => now.filter((one) => one.key !== key))
}
function dropItsFile(one: Waiting): void {
  if (one.file) void files().then(({ dropFile }) => dropFile(one.key))
}

/** What the server itself says with a status that else comes from whatever stands before it: it is there, and does not do it now. */
type Says = 'busy' | 'too-long' | ''
async function saysItself(response: Response): Promise<Says> {
  const said = (await response
    .clone()
    .json()
    .catch(() => ({}))) as { type?: string }
  return said.type === 'busy' || said.type === 'too-long' ? said.type : ''
}

/** A server that hangs is none: whoever waits longer for its answer than it works on one (30 s) hears so. */
const LONGEST_MS = 35_000
const PHOTO_MS = 240_000 // 20 MB, the most there is, at 0.7 Mbit/s
function inTime(request: Request | string, init: RequestInit = {}, longest = LONGEST_MS): Promise<Response> {
  const late = new AbortController()
  const timer = setTimeout(() => late.abort(), longest)
  const signal = typeof request === 'string' ? late.signal : AbortSignal.any([request.signal, late.signal])
  return fetch(request, { ...init, signal }).finally(() => clearTimeout(timer))
}

const NOT_KEPT = { detail: 'The photo is not kept in this browser any more: add it again.' }
async function post(one: Waiting): Promise<Response> {
  const body = one.file ? await formOf(one) : one.body || undefined
  if (body === null) return Response.json(NOT_KEPT, { status: 410 })
  const init = {
    method: one.method,
    body,
    headers: {
      'Idempotency-Key': one.key,
      'X-CSRFToken': token(),
      'Waited-Seconds': String((Date.now() - Date.parse(one.at)) / 1000),
      'Sent-At': String(Date.now() + ahead.value),
      ...knew(one),
      ...(typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}),
    },
  }
  return inTime(one.url, init, one.file ? PHOTO_MS : LONGEST_MS)
}
/** A photo that waits with what goes with it; null where it is kept no more. */
async function formOf(one: Waiting): Promise<FormData | null> {
  const file = await (await files()).fileOf(one.key)
  if (!file) return null
  const form = new FormData()
  form.append('photo', file, one.file?.name)
  for (const [name, text] of Object.entries(JSON.parse(one.body) as Record<string, string>)) form.append(name, text)
  return form
}

/** What was read before is read again, as long as that may take; whether all of it came from the server in time. */
async function reread(): Promise<boolean> {
  const before = answersSeenLast()
  const longest = new Promise<boolean>((resolve) => setTimeout(() => resolve(false), REREAD_MS))
  const all = Promise.all(sent.map((handler) => handler())).then(() => answersSeenLast() === before)
  return Promise.race([all, longest])
}

/** Sends what waits, oldest first, one tab at a time; stops at the first that gets no answer. Photos, which take long, hold up none. */
export async function flush(): Promise<void> {
  await sendThose(false)
  photosGo ??= sendThose(true).finally(() => (photosGo = undefined))
  await photosGo
}
let photosGo: Promise<void> | undefined
const waits = (one: Waiting, photos: boolean) => one.member === member.value && !one.refused && !!one.file === photos
async function sendThose(photos: boolean): Promise<void> {
  await navigator.locks.request(photos ? `${STORE}, photos` : STORE, async () => {
    for (const one of read().filter((row) => waits(row, photos))) {
      if (!read().some((row) => row.key === one.key)) continue // taken out meanwhile
      let response: Response
      try {
        beforeWriting(one)
        response = await post(one)
      } catch {
        notWritten(one.key)
        return
      }
      const there = !NOT_THERE.includes(response.status) || (await saysItself(response)) === 'too-long'
      if (response.status === 401 || !there) {
        notWritten(one.key)
        return
      }
      unanswered.value = null
      written(one.key)
      const said = response.ok ? {} : ((await response.json().catch(() => ({}))) as { detail?: string; type?: string })
      if (response.ok || said.type === 'done') {
        if (!(await reread())) return // it speaks here until what follows from it was read; by its key it is done once
        readSince(one.key)
        discard(one.key)
      } else {
        keep((now) =>
          now.map((row) => (row.key === one.key ? { ...row, refused: said.detail ?? 'It was refused.' } : row)),
        )
        await reread()
      }
    }
    void keepGround()
  })
}
notWhile(() => read().some((one) => !one.refused))
setInterval(() => waiting.value.some((one) => !one.refused) && void flush(), AGAIN_MS)
window.addEventListener('online', () => void flush())

const noRoom = () => {
  const detail = 'The server does not answer, and this browser has no room to keep more: leave it where it is.'
  return Response.json({ type: 'no-room', title: 'No room', status: 507, detail, errors: [] }, { status: 507 })
}

const ofServer = async (response: Response) =>
  !response.headers.has('X-Seen-Last') && (!NOT_THERE.includes(response.status) || !!(await saysItself(response)))

let beginning: Promise<unknown> | undefined
/** What the server answers, or what is worked out here when it does not, or what was seen last. */
async function readOrWork(request: Request): Promise<Response> {
  let seen: Response | undefined
  let failed: unknown
  try {
    seen = await inTime(request.clone())
    if (await ofServer(seen)) return seen
  } catch (error) {
    if (request.signal.aborted) throw error
    failed = error
  }
  unanswered.value ??= new Date()
  if (worksHere(request)) return (await import('./device/work')).workHere(request)
  if (seen?.ok && !ready.value) {
    beginning ??= readHere(request, member.value, waiting.value).finally(() => (beginning = undefined))
    return seen // and read again once it is open
  }
  const here = await readHere(request, member.value, waiting.value)
  if (here ?? seen) return (here ?? seen) as Response
  throw failed
}

/** When what is sent by a key was typed, where that was before it is sent. */
const typedAt = new Map<string, number>()
export const wasTyped = (key: string, at: number) => typedAt.set(key, at)

/** Writes go one after the other, as they were typed: none overtakes another that a network holds up. Photos go so by themselves. */
let turn: Promise<unknown> = Promise.resolve()
let photoTurn: Promise<unknown> = Promise.resolve()
const MOMENT_S = 1 // what waited longer for its turn says when it was typed

/** Fetches; a write with a key that gets no answer, or comes behind one that waits, waits itself. */
export async function fetchOrKeep(request: Request): Promise<Response> {
  const key = request.headers.get('Idempotency-Key')
  const path = new URL(request.url).pathname
  const plain =
    !SECRET.test(path) &&
    (!request.headers.get('Content-Type') || request.headers.get('Content-Type')?.startsWith('application/json'))
  const photo = PHOTO.test(path)
  if (request.method === 'GET' && member.value) return readOrWork(request)
  if (!key || !(plain || photo) || !member.value) return fetch(request)
  const typed = typedAt.get(key) ?? Date.now()
  typedAt.delete(key)
  const row: Waiting = {
    member: member.value,
    key,
    method: request.method,
    url: path,
    at: new Date(typed).toISOString(),
    seen: seenEntries.value,
    after: flying.value.map((one) => one.key).filter((one) => one !== key),
    about: location.pathname,
    ...(await (photo ? inItsTurn(() => takePhoto(request, key)) : takeText(request))),
  }
  flying.value = [...flying.value.filter((one) => one.key !== key), row]
  setOut(row)
  const mine = Promise.all(photo ? [turn, photoTurn] : [turn])
    .then(() => sendOrKeep(request, row, photo))
    .finally(() => {
      arrived(key)
      if (!read().some((one) => one.key === key)) dropItsFile(row)
    })
  const done = mine.catch(() => undefined)
  if (photo) photoTurn = done
  else turn = done
  return mine
}
const takeText = async (request: Request) => ({ body: await request.clone().text() })
let taking: Promise<unknown> = Promise.resolve()
/** Of several photos at once the first is taken first. */
function inItsTurn<T>(take: () => Promise<T>): Promise<T> {
  const mine = taking.then(take)
  taking = mine.catch(() => undefined)
  return mine
}
/** A photo is kept before it is sent, where there is room for it. */
async function takePhoto(request: Request, key: string): Promise<Pick<Waiting, 'body' | 'file'>> {
  const form = await request.clone().formData()
  const { name, size } = form.get('photo') as File
  const { keepFile } = await files()
  const kept = await keepFile(key, form.get('photo') as File).then(
    () => true,
    () => false,
  )
  form.delete('photo')
  return { body: JSON.stringify(Object.fromEntries(form)), ...(kept ? { file: { name, size } } : {}) }
}

async function sendOrKeep(request: Request, row: Waiting, photo: boolean): Promise<Response> {
  const { key } = row
  const behind = () => waiting.value.some((one) => !one.refused && one.key !== key && (photo || !one.file))
  if (behind()) await (photo ? flush() : sendThose(false))
  const waited = (Date.now() - Date.parse(row.at)) / 1000
  const late = photo || waited > MOMENT_S
  if (late) request.headers.set('Waited-Seconds', String(waited))
  const left = late ? Date.now() : Date.parse(row.at) // a network may hold it up
  const about = { ...knew(row), 'Sent-At': String(left + ahead.value) }
  for (const [name, value] of Object.entries(about)) request.headers.set(name, value)
  const theirs = row.member === member.value // who signed in meanwhile sends nothing of theirs
  if (!theirs && !onItsWay().some((one) => one.key === key)) throw new QueuedError() // they signed out, and let it go
  if (theirs && !behind()) {
    try {
      beforeWriting(row)
      const response = await inTime(request, {}, photo ? PHOTO_MS : LONGEST_MS)
      if (!NOT_THERE.includes(response.status) || (await saysItself(response))) {
        written(key)
        return response
      }
    } catch {
      unanswered.value ??= new Date()
    }
  }
  try {
    if (photo && !row.file) return noRoom()
    keep((now) => (now.some((one) => one.key === key) ? now : [...now, row]))
  } catch {
    return noRoom()
  }
  notWritten(key)
  const here = photo ? undefined : await writeHere(row, waiting.value)
  if (!here) throw new QueuedError()
  if (!here.ok)
    discard(key) // what it says stands where it was typed
  else if (beginsJob(row)) {
    const { id } = (await here.clone().json()) as { id: string }
    keep((now) => now.map((one) => (one.key === key ? { ...one, begins: id } : one)))
  }
  return here
}
