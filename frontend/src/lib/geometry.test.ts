// Geometry by hand: positions, clocks, snapping, and there and back between beats and pixels.
import { expect, test } from 'vitest'
import type { ParameterOut } from '../api/types'
import { beatAt, bend, clampView, fitScale, snapped, xOf, yOf } from './geometry'
import { clockText, positionText } from './said'

// Two bars of 4/4, one of 3/4 from beat 8, then 4/4.
const bars = [0, 4, 8, 11].map((beat, i) => ({ number: i + 1, beat, count: i === 2 ? 3 : 4, unit: 4 }))
const view = { start: 8, end: 24 }

test('positions count through a change of meter', () => {
  expect([0, 7.5, 8, 10.25, 11].map((b) => positionText(b, bars))).toEqual(['1.1.00', '2.4.50', '3.1.00', '3.3.25', '4.1.00'])
})
test('the clock is straight between its entries', () => {
  const clock = [
    { beat: 0, seconds: 0 },
    { beat: 8, seconds: 4 },
    { beat: 16, seconds: 70 },
  ]
  expect([2, 8, 12].map((b) => clockText(b, clock))).toEqual(['0:01.000', '0:04.000', '0:37.000'])
})
test('snapping starts anew at every bar', () => {
  expect(snapped(10.4, '1/2', bars, 16)).toBe(10)
  expect(snapped(10.9, '1/2', bars, 16)).toBe(11)
  expect(snapped(9.9, 'bar', bars, 16)).toBe(11)
  expect(snapped(5.4, '1/4t', bars, 16)).toBeCloseTo(4 + 4 / 3)
  expect(snapped(99, 'off', bars, 16)).toBe(16)
})
test('of grid line and magnet the nearer one wins, and beyond its reach a magnet is none', () => {
  const magnets = { beats: [10.3, 12.45], within: 0.5 }
  expect(snapped(10.2, '1/4', bars, 16, magnets)).toBe(10.3)
  expect(snapped(10.1, '1/4', bars, 16, magnets)).toBe(10)
  expect(snapped(12.1, '1/4', bars, 16, magnets)).toBe(12)
  expect(snapped(10.05, 'off', bars, 16, magnets)).toBe(10.3)
  expect(snapped(9.7, 'off', bars, 16, magnets)).toBe(9.7)
})
test('beats and pixels there and back', () => {
  for (const beat of [8, 13.37, 24]) expect(beatAt(xOf(beat, view, 700), view, 700)).toBeCloseTo(beat)
})
test('a window stays inside the session and keeps its width', () => {
  expect(clampView({ start: -5, end: 11 }, 64)).toEqual({ start: 0, end: 16 })
  const right = clampView({ start: 60, end: 76 }, 64)
  expect(right.end - right.start).toBeCloseTo(16)
})
test('a bend is the server’s: of ln 9 it has come a quarter of the way in the middle', () => {
  expect(bend(0.5, Math.log(9))).toBeCloseTo(0.25)
  expect(bend(0.5, 0)).toBe(0.5)
})
test('a log scale puts the geometric middle in the middle', () => {
  const hertz = {
    axis: { logarithmic: true },
    kind: 'continuous',
    low: 20,
    high: 20000,
    value: 200,
  } as unknown as ParameterOut
  const scale = fitScale(hertz, [100], [1600], 0, 100)
  expect(yOf(scale, 400)).toBeCloseTo(50)
})
