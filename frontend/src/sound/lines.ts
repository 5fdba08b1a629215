// Lines: what a parameter of the audio graph does, as the core's ramps say it, written onto an audio clock leg by leg.
import type { Schemas } from '../api/types'

export type Ramps = Schemas['RampsOut']
const LINE = 1
const CURVE = 2

/** A stretch of the session that is played in one go: `from` to `to` in its seconds; `at` is the clock's time of `from`. */
export interface Leg {
  from: number
  to: number
  at: number
}
export const clockAt = (leg: Leg, seconds: number): number => leg.at + (seconds - leg.from)

/** How many of the times, which rise, are not behind a moment. */
export function countUpTo(times: number[], moment: number): number {
  let [low, high] = [0, times.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (times[middle]! <= moment) low = middle + 1
    else high = middle
  }
  return low
}

/** Where the ramps stand at a moment: the last event's value, or on the way to the next one. */
export function valueAt({ times, values, ways }: Ramps, moment: number): number {
  const after = countUpTo(times, moment)
  if (after === 0) return values[0]!
  const [v0, t0] = [values[after - 1]!, times[after - 1]!]
  if (after === times.length) return v0
  const [v1, t1, way] = [values[after]!, times[after]!, ways[after]!]
  const part = (moment - t0) / (t1 - t0)
  if (way === LINE) return v0 + (v1 - v0) * part
  return way === CURVE && v0 * v1 > 0 ? v0 * (v1 / v0) ** part : v0
}

const GLIDE = 0.015 // seconds in which a line goes over to another one

/** One parameter on its clock. What is on its way at the end of what was scheduled is scheduled whole, as a clock needs. */
export class Line {
  private next = 0
  private leg: Leg | null = null

  constructor(
    private readonly param: AudioParam,
    private ramps: Ramps,
    private readonly to: (value: number) => number = (value) => value,
  ) {
    param.value = to(ramps.values[0]!)
  }

  begin(leg: Leg): void {
    this.leg = leg
    this.next = countUpTo(this.ramps.times, leg.from)
    this.param.setValueAtTime(this.to(valueAt(this.ramps, leg.from)), Math.max(leg.at, 0))
  }

  /** Write what happens up to a moment of the leg. */
  until(moment: number): void {
    const { leg, ramps, param } = this
    if (!leg) return
    const { times, values, ways } = ramps
    const last = Math.min(moment, leg.to)
    while (this.next < times.length && (times[this.next - 1] ?? -Infinity) < last) {
      const time = Math.min(times[this.next]!, leg.to)
      const value = this.to(time < times[this.next]! ? valueAt(ramps, time) : values[this.next]!)
      const when = clockAt(leg, time)
      const way = ways[this.next]
      if (way === LINE) param.linearRampToValueAtTime(value, when)
      else if (way === CURVE && value > 0) param.exponentialRampToValueAtTime(value, when)
      else if (time >= times[this.next]!) param.setValueAtTime(value, when)
      if (time < times[this.next]!) {
        this.next = times.length // the leg is over in the middle of it
        return
      }
      this.next++
    }
  }

  /** Go over to other ramps from a moment on, without a jump. */
  change(ramps: Ramps, leg: Leg, moment: number): void {
    const [now, soon] = [clockAt(leg, moment), moment + GLIDE]
    this.ramps = ramps
    this.leg = leg
    this.param.cancelAndHoldAtTime(now)
    this.param.linearRampToValueAtTime(this.to(valueAt(ramps, soon)), now + GLIDE)
    this.next = countUpTo(ramps.times, soon)
  }

  /** Follow a hand at once, until it lets go. */
  hold(value: number, when: number): void {
    this.param.cancelAndHoldAtTime(when)
    this.param.linearRampToValueAtTime(this.to(value), when + 0.008)
    this.next = Infinity
  }
}
