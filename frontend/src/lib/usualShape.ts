// A placing as it usually is, for whoever asks for one: the sheet, the tray and the hand that paints.
import type { AnyRequest, ParameterOut, Schemas } from '../api/types'

type Place = Extract<AnyRequest, { verb: 'place' }>

const EDITION = 2 // how shapes are drawn today

export const USUAL_SHAPE: Schemas['Shape'] = {
  ...{ kind: 'sine', cycles: 1, cycle: null, phase: 0, skew: 0.5, grow_from: 100, grow_to: 100, hurry: 1, lean: 0, seed: 0 },
  edition: EDITION,
}

/** A request to place something once, linked, over the middle of the range; what is given goes before that. */
export function placing(some: Pick<Place, 'targets' | 'start'> & Partial<Place>): Place {
  return {
    ...{ verb: 'place', end: null, phrase: null, given: null, shape: null, name: '', length: null, times: 1 },
    ...{ deep: 'range', depth: 100, to_each_side: null, upside_down: false, backwards: false, stagger: 0, wrap: false },
    ...{ edges: 'seal', ramp: 0, linked: true, set_to_read: false },
    ...some,
  }
}

/** The unit of a phrase's values; one that is drawn from 0 to 1, for any depth, has none of its own. */
export function unitOf(phrase: { unit: string; low: number; high: number; shape?: unknown }): string | null {
  return phrase.shape || (!phrase.unit && phrase.low === 0 && phrase.high === 1) ? null : phrase.unit
}

/** How deep something lies until that is chosen: with its own numbers where they mean the same, a little about a level's value. */
export function usualDepth(parameter: ParameterOut, unit: string | null): Pick<Place, 'deep' | 'depth'> {
  if (unit !== null && unit === parameter.unit) return { deep: 'unit', depth: 100 }
  const level = parameter.family === 'level' || parameter.family === 'send'
  return level ? { deep: 'static', depth: 20 } : { deep: 'range', depth: 100 }
}
