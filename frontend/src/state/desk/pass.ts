// A pass: a span of time, and for each control what hands did on it.
import type { AnyRequest, Schemas } from '../../api/client'
import type { Hand } from '../../lib/hands'

export type Ride = Extract<AnyRequest, { verb: 'ride' }>
export type Mode = NonNullable<Schemas['Ridden']['mode']>
export type Spread = NonNullable<Schemas['Ridden']['spread']>
export type First = NonNullable<Schemas['Ridden']['first_from']>

export interface Ridden {
  parameter: string
  mode: Mode
  trim: boolean
  shows: 'own' | 'heard'
  spread: Spread
  first_from: First
  hand: Hand
}
export interface Pass {
  start: number
  end: number
  controls: Ridden[]
}

export const WRITING: readonly Mode[] = ['touch', 'latch', 'write']
