/** A question to the worker, or without a path that nobody waits for it any more. */
export interface Asked {
  id: number
  path?: string
  query?: string
  ground?: string
}

/** Its answer as JSON, or why there is none; number 0 says that the rules are open. */
export interface Told {
  id: number
  answer?: string
  failed?: string
}
