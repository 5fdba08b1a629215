import { describe, expect, it } from 'vitest'
import { clockAt, countUpTo, Line, valueAt, type Leg } from './lines'

const ramps = { times: [0, 1, 1, 3, 5], values: [1, 1, 4, 1, 0], ways: [0, 1, 0, 2, 1] }

describe('where ramps stand', () => {
  it('reaches values straight, by equal ratios, or at once', () => {
    expect(valueAt(ramps, -1)).toBe(1)
    expect(valueAt(ramps, 1)).toBe(4)
    expect(valueAt(ramps, 2)).toBeCloseTo(2) // half-way from 4 to 1 by equal ratios
    expect(valueAt(ramps, 4)).toBeCloseTo(0.5) // half-way from 1 to 0, straight
    expect(valueAt(ramps, 9)).toBe(0)
  })
  it('counts the events up to a moment', () => {
    expect([-1, 0, 0.5, 1, 5, 9].map((at) => countUpTo(ramps.times, at))).toEqual([0, 1, 1, 3, 5, 5])
  })
})

/** What is written onto a clock, as text. */
function noted(): { param: AudioParam; notes: string[] } {
  const notes: string[] = []
  const note =
    (what: string) =>
    (...numbers: number[]): void =>
      void notes.push(`${what} ${numbers.map((n) => +n.toFixed(3)).join(' at ')}`)
  const param = {
    value: 0,
    setValueAtTime: note('set'),
    linearRampToValueAtTime: note('line'),
    exponentialRampToValueAtTime: note('curve'),
    cancelAndHoldAtTime: note('hold'),
  }
  return { param: param as unknown as AudioParam, notes }
}

describe('a line on its clock', () => {
  const leg: Leg = { from: 0.5, to: 4, at: 10 }
  it('begins where the ramps stand and writes what comes, the last one whole', () => {
    const { param, notes } = noted()
    const line = new Line(param, ramps)
    line.begin(leg)
    line.until(1.5)
    expect(notes).toEqual(['set 1 at 10', 'line 1 at 10.5', 'set 4 at 10.5', 'curve 1 at 12.5'])
    line.until(3.5)
    expect(notes.at(-1)).toBe('line 0.5 at 13.5') // the leg ends in the middle of it
    line.until(9)
    expect(notes).toHaveLength(5)
  })
  it('goes over to other ramps without a jump, and on from there', () => {
    const { param, notes } = noted()
    const line = new Line(param, ramps)
    line.begin(leg)
    line.until(1)
    notes.length = 0
    line.change({ times: [0, 8], values: [0.5, 0.5], ways: [0, 1] }, leg, 2)
    line.until(3)
    expect(notes).toEqual(['hold 11.5', 'line 0.5 at 11.515', 'line 0.5 at 13.5'])
  })
  it('follows a hand, and nothing else until it is told otherwise', () => {
    const { param, notes } = noted()
    const line = new Line(param, ramps)
    line.begin(leg)
    notes.length = 0
    line.hold(0.25, 10.2)
    line.until(4)
    expect(notes).toEqual(['hold 10.2', 'line 0.25 at 10.208'])
  })
  it('knows the time of its clock', () => expect(clockAt(leg, 2)).toBe(11.5))
})
