import createClient from 'openapi-fetch'
import { markWorked } from './device'
import { noteAnswer } from './offline'
import { fetchOrKeep, QueuedError } from './outbox'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
type Problem = Schemas['Problem']

/** An answer that is not what was asked for: a sentence, and sentences at fields. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }

  at(field: string): string | undefined {
    return this.problem.errors.find((error) => error.field === field)?.sentence
  }
}

export const cookie = (name: string) => document.cookie.match(new RegExp(`(?:^|; )${name}=([^;]*)`))?.[1] ?? ''

export const client = createClient<paths>({ baseUrl: '/', fetch: fetchOrKeep })
client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', cookie('csrftoken'))
    return request
  },
  onResponse({ response }) {
    noteAnswer(response)
  },
})

let onSignedOut = () => {}
/** Called when the server says that nobody is signed in any more. */
export function whenSignedOut(handler: () => void): void {
  onSignedOut = handler
}

/** The data of an answer, or a ProblemError that says what is wrong. */
export async function ask<T>(call: Promise<{ data?: T; error?: Problem; response: Response }>): Promise<T> {
  let answer
  try {
    answer = await call
  } catch (error) {
    throw new ProblemError(error instanceof QueuedError ? queued : unreachable)
  }
  const { data, error, response } = answer
  if (response.ok) return markWorked(data as T, response)
  if (response.status === 401) onSignedOut()
  throw new ProblemError(error && typeof error === 'object' ? error : unreachable)
}

const queued: Problem = {
  type: 'queued',
  title: 'It waits',
  status: 0,
  detail: 'No connection: it waits in this browser, and is sent once when the server answers.',
  errors: [],
  current: null,
}
const unreachable: Problem = {
  type: 'about:blank',
  title: 'No answer',
  status: 0,
  detail: 'The server does not answer. What you typed is kept: try again.',
  errors: [],
  current: null,
}
