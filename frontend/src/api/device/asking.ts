import type { Schemas } from '../client'

/** A question to the worker: an address for the rules, or a text for the server in it; with neither nobody waits any more. */
export interface Asked {
  id: number
  path?: string
  query?: string
  ground?: string
  text?: string
}

/** Its answer as JSON, or why there is none; number 0 says that the rules are open, or that they cannot be opened. */
export interface Told {
  id: number
  answer?: string
  failed?: string
}

/** A fall as it was seen last, with logs typed since, the meter they were read with, and when the last was taken. */
export interface FallHere {
  fall: Schemas['FallOut']
  rows: string[]
  meter_name: string
  display_counts: number
  meter_ohm: number
  counted_from: string
}
