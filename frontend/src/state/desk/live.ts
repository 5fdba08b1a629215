// What hands are doing: those that are on controls, the pass that runs, and the passes ridden so far.
import { shallowRef } from 'vue'
import type { Hand } from '../../lib/hands'
import type { Pass, Ridden } from './pass'

export type Shaping = Pick<Ridden, 'spread' | 'first_from'>
export const AS_RIDDEN: Shaping = { spread: 'no', first_from: 'the touch' }

/** A hand that is on a control, or was during this pass. */
export interface Grip {
  hands: number
  value: number
  /** The beat at which it was moved last. */
  moved: number
}
/** The pass that runs. */
export interface Live {
  start: number
  hands: Map<string, Hand>
  /** What is asked of it while it runs. */
  asked: Shaping
}

export type Doing = ReturnType<typeof useDoing>

export function useDoing() {
  const grips = shallowRef(new Map<string, Grip>())
  const live = shallowRef<Live | null>(null)
  const passes = shallowRef<Pass[]>([])
  return { grips, live, passes }
}
