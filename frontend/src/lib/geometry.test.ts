// Geometry by hand: positions, clocks, snapping, and there and back between beats and pixels.
import { expect, test } from 'vitest'
import type { ParameterOut } from '../api/types'
import {
  barStride,
  beatAt,
  bend,
  clampView,
  fitScale,
  fromAxis,
  gridStep,
  heardReach,
  lastAtOrBefore,
  nearestMark,
  snapped,
  toAxis,
  xOf,
  yOf,
} from './geometry'
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
  const right = clampView({ start: 60, end: 76 }, 100)
  expect(right).toEqual({ start: 60, end: 76 })
  const beyond = clampView({ start: 60, end: 76 }, 50)
  expect([beyond.start, beyond.end]).toEqual([35, 51])
  const wide = clampView({ start: 10, end: 500 }, 50)
  expect([wide.start, wide.end]).toEqual([0, 51])
  const narrow = clampView({ start: 3, end: 3 }, 50)
  expect(narrow).toEqual({ start: 3, end: 3 + 1 / 64 })
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

const LEVEL = {
  axis: { logarithmic: false, marks: [] },
  kind: 'continuous',
  low: -96,
  high: 12,
  value: -6,
} as unknown as ParameterOut
const ends = ({ low, high }: { low: number; high: number }) => [low, high].map((x) => +x.toFixed(6))

test('a scale shows what lanes do with a tenth of air, and at least an eighth of the range', () => {
  // 6 dB of 108: at least 12.96 are shown, 3.48 more on each side, and 0.6 of air.
  expect(ends(fitScale(LEVEL, [-12], [-6], 20, 90))).toEqual([-16.08, -1.92])
  expect(ends(fitScale(LEVEL, [-60], [-20], 20, 90))).toEqual([-65.4, -0.6])
  expect(ends(fitScale(LEVEL, [-96], [12], 20, 90))).toEqual([-98.16, 14.16])
  const scale = fitScale(LEVEL, [-60], [-20], 20, 90)
  expect([yOf(scale, -65.4), yOf(scale, -0.6)]).toEqual([90, 20])
})
test('named values are all shown', () => {
  const mute = { ...LEVEL, kind: 'switch', low: 0, high: 1, value: 0 }
  expect(ends(fitScale(mute, [0], [0], 0, 100))).toEqual([-0.16, 1.16])
})
test('what is heard takes half of what lanes span on each side, and no more than it reaches', () => {
  expect(ends(heardReach(LEVEL, [-12], [-6], { low: -96, high: 0 }))).toEqual([-18.48, 0])
  expect(ends(heardReach(LEVEL, [-60], [-20], { low: -50, high: 12 }))).toEqual([-50, 12])
  expect(ends(heardReach(LEVEL, [-60], [-40], { low: -96, high: 12 }))).toEqual([-87, 12])
})
test('octaves there and back, and the nearest of some marks', () => {
  const hertz = { axis: { logarithmic: true, marks: [{ value: 0 }, { value: 3 }, { value: 10 }] } } as unknown as ParameterOut
  expect([toAxis(hertz, 8), fromAxis(hertz, 3), toAxis(LEVEL, 8), fromAxis(LEVEL, 3)]).toEqual([3, 8, 8, 3])
  expect([1, 2, 6, 7, 99].map((v) => nearestMark(hertz, v)!.value)).toEqual([0, 3, 3, 10, 10])
})
test('grids are parts of a whole note, triplets three in the time of two', () => {
  expect(['1/2', '1/4', '1/16', 'bar'].map(gridStep)).toEqual([2, 1, 0.25, 1])
  expect(gridStep('1/8t')).toBeCloseTo(1 / 3, 12)
})
test('the last of a list at or before a place', () => {
  const at = (beat: number) => lastAtOrBefore(bars, (bar) => bar.beat, beat)
  expect([-1, 0, 3.9, 4, 8, 10.9, 11, 99].map(at)).toEqual([0, 0, 0, 1, 2, 2, 3, 3])
  expect(snapped(3, 'bar', [], 16)).toBe(3)
  expect(snapped(-3, 'off', bars, 16)).toBe(0)
  expect([1.9, 2.1, 13.4, 13.6].map((beat) => snapped(beat, 'bar', bars, 16))).toEqual([0, 4, 11, 16])
})
test('bars are numbered as close as there is room', () => {
  const stride = (end: number) => barStride(bars, { start: 0, end }, 1000)
  expect([16, 100, 106, 256].map(stride)).toEqual([1, 1, 2, 4])
  expect(barStride([], view, 1000)).toBe(1)
})
