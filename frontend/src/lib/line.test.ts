// A curve as a line on screen: its corners, and the parts of it that are drawn.
import { expect, it } from 'vitest'
import type { Curve, ParameterOut } from '../api/types'
import { LEFT, type Scale } from './geometry'
import { common, cutTo, lineOf, pixelsBeside, pixelsOf, seen, wholeOf, type Box } from './line'

const box: Box = { view: { start: 0, end: 100 }, width: 100, height: 50 }
const at = (x: number) => LEFT + x
const scale = {
  parameter: { axis: { logarithmic: false } } as ParameterOut,
  low: 0,
  high: 10,
  top: 0,
  bottom: 100,
} satisfies Scale
function curve(points: [number, number, number | null][]): Curve {
  const [beats, values, shapes] = [points.map((p) => p[0]), points.map((p) => p[1]), points.map((p) => p[2])]
  return { lane: '', start: 0, end: 100, first: 0, beats, values, shapes, lows: [], highs: [] }
}

it('joins spans that overlap, and leaves what lies beside them', () => {
  const parts = pixelsOf(box, [
    { start: 40, end: 60 },
    { start: 10, end: 30 },
    { start: 20, end: 45 },
  ])
  expect(parts).toEqual([[at(10), at(60)]])
  expect(pixelsBeside(box, parts)).toEqual([
    [at(-6), at(10)],
    [at(60), at(106)],
  ])
  expect(pixelsBeside(box, [])).toEqual(wholeOf(box))
})

it('drops spans out of the window and cuts those that reach out of it', () => {
  expect(
    pixelsOf(box, [
      { start: -50, end: -20 },
      { start: 90, end: 300 },
    ]),
  ).toEqual([[at(90), at(106)]])
})

it('keeps what two lists of parts share', () => {
  expect(
    common(
      [
        [0, 10],
        [20, 30],
      ],
      [[5, 25]],
    ),
  ).toEqual([
    [5, 10],
    [20, 25],
  ])
  expect(common([[0, 10]], [[10, 20]])).toEqual([])
})

it('holds, then jumps; before its first point and after its last a curve goes on level', () => {
  const { xs, ys } = lineOf(
    curve([
      [20, 2, null],
      [60, 8, 0],
    ]),
    box,
    scale,
  )
  expect(xs).toEqual([at(-6), at(20), at(60), at(60), at(106)])
  expect(ys).toEqual([80, 80, 80, 20, 20])
})

it('cuts a line where a part ends, between its corners', () => {
  const line = lineOf(
    curve([
      [0, 0, 0],
      [100, 10, 0],
    ]),
    box,
    scale,
  )
  expect(cutTo(line, [at(25), at(75)])).toEqual({ xs: [at(25), at(75)], ys: [75, 25] })
})

it('bends with as many corners as can be told apart, none further off than a quarter of a pixel', () => {
  const bent = curve([
    [0, 0, 4],
    [100, 10, 0],
  ])
  const { xs, ys } = lineOf(bent, box, scale)
  expect(xs.length).toBeLessThan(50)
  for (let x = 0; x < 100; x += 0.5) {
    const i = xs.findIndex((corner) => corner >= at(x))
    const drawn = i ? ys[i - 1]! + ((ys[i]! - ys[i - 1]!) * (at(x) - xs[i - 1]!)) / (xs[i]! - xs[i - 1]! || 1) : ys[0]!
    const exact = 100 - 100 * (Math.expm1((4 * x) / 100) / Math.expm1(4))
    expect(Math.abs(drawn - exact)).toBeLessThan(0.25)
  }
})

it('draws in slices what it draws in one go', () => {
  const bent = curve([
    [5, 1, 3],
    [30, 9, null],
    [52, 4, -2],
    [97, 6, 0],
  ])
  const whole = lineOf(bent, box, scale)
  for (let n = 0; n < 4; n++) {
    const part = [at(25 * n), at(25 * n + 25)] as const
    const only = [part[0] - 10, part[1] + 10] as const
    const slice = cutTo(lineOf(bent, { ...box, only }, scale), part)
    const same = cutTo(whole, part)
    expect(slice.xs).toEqual(same.xs.map((x) => expect.closeTo(x, 9)))
    expect(slice.ys).toEqual(same.ys.map((y) => expect.closeTo(y, 9)))
    expect(seen({ ...box, only }, at(0), at(20))).toBe(n === 0 || n === 1)
  }
})

it('draws no more of a long curve than the window holds', () => {
  const long = curve(Array.from({ length: 1000 }, (_, i) => [i, i % 10, 0]))
  expect(lineOf(long, { ...box, view: { start: 500, end: 600 } }, scale).xs.length).toBeLessThan(120)
})
