// A curve as a line on screen: its corners in pixels, and the parts of it that are drawn.
import type { Curve } from '../api/types'
import { beatAt, bend, LEFT, toAxis, xOf, yOf, yOfAxis, type Scale, type View } from './geometry'

export interface Box {
  view: View
  width: number
  height: number
  /** The part to be drawn, if it is not all. */
  only?: Pixels
}

/** A stretch of the window, from one x to another. */
export type Pixels = readonly [number, number]

export interface Line {
  xs: number[]
  ys: number[]
}

interface Span {
  start: number
  end: number
}

/** Pixels that a line goes on beyond the window. */
export const AIR = 6
const OFF = 0.2 // pixels that a bend may be drawn off its place

/** All that is drawn of a window, as one part. */
export function wholeOf(box: Box): [Pixels] {
  return [box.only ?? [LEFT - AIR, LEFT + box.width + AIR]]
}

/** Whether what lies between two places in pixels is drawn at all, if only in part. */
export function seen(box: Box, from: number, to: number): boolean {
  const [[low, high]] = wholeOf(box)
  return to >= low && from <= high
}

/** The parts of the window that lie in some spans of beats, in order and disjoint. */
export function pixelsOf(box: Box, spans: readonly Span[]): Pixels[] {
  const [[low, high]] = wholeOf(box)
  const edges = spans
    .map(
      ({ start, end }) =>
        [Math.max(xOf(start, box.view, box.width), low), Math.min(xOf(end, box.view, box.width), high)] as const,
    )
    .filter(([a, b]) => b > a)
    .sort((one, other) => one[0] - other[0])
  const out: [number, number][] = []
  for (const [a, b] of edges) {
    const last = out[out.length - 1]
    if (last && a <= last[1]) last[1] = Math.max(last[1], b)
    else out.push([a, b])
  }
  return out
}

/** The window without some parts of it, which are in order and disjoint. */
export function pixelsBeside(box: Box, parts: readonly Pixels[]): Pixels[] {
  const [[low, high]] = wholeOf(box)
  const out: Pixels[] = []
  let at = low
  for (const [a, b] of parts) {
    if (a > at) out.push([at, a])
    at = b
  }
  return high > at ? [...out, [at, high]] : out
}

/** What two lists of parts have in common. */
export function common(parts: readonly Pixels[], others: readonly Pixels[]): Pixels[] {
  return parts.flatMap(([a, b]) =>
    others.map(([c, d]) => [Math.max(a, c), Math.min(b, d)] as const).filter(([from, to]) => to > from),
  )
}

/** The corners of a curve given by its points, as far as the window needs them; bends by as many as the eye can tell. */
export function lineOf(curve: Curve, box: Box, scale: Scale): Line {
  const { beats, values, shapes } = curve
  const [[low, high]] = wholeOf(box)
  const x = (i: number) => xOf(beats[i]!, box.view, box.width)
  const y = (i: number) => yOf(scale, values[i]!)
  const first = Math.max(lastUpTo(beats, beatAt(low, box.view, box.width)), 0)
  const xs = [Math.min(low, x(first)), x(first)]
  const ys = [y(first), y(first)]
  let i = first
  for (; i + 1 < beats.length && xs[xs.length - 1]! <= high; i++) {
    const k = shapes[i]
    if (k === null || k === undefined) push(x(i + 1), y(i))
    else if (k !== 0) bent(i, k)
    push(x(i + 1), y(i + 1))
  }
  push(Math.max(high, xs[xs.length - 1]!), ys[ys.length - 1]!)
  return { xs, ys }

  function push(at: number, height: number): void {
    xs.push(at)
    ys.push(height)
  }
  function bent(i: number, k: number): void {
    const [x0, x1] = [x(i), x(i + 1)]
    const [a0, a1] = [toAxis(scale.parameter, values[i]!), toAxis(scale.parameter, values[i + 1]!)]
    const steps = cornersOf(k, yOfAxis(scale, a1) - yOfAxis(scale, a0), x1 - x0)
    for (let s = 1; s < steps; s++) push(x0 + ((x1 - x0) * s) / steps, yOfAxis(scale, a0 + (a1 - a0) * bend(s / steps, k)))
  }
}

/** Into how many straight pieces a bend of some pixels is cut: its steepest curvature, e^|k|/(e^|k| − 1)·k², decides. */
function cornersOf(k: number, rise: number, run: number): number {
  const most = Math.abs(rise * k * k) / -Math.expm1(-Math.abs(k))
  return Math.min(Math.ceil(Math.sqrt(most / (8 * OFF))), Math.ceil(run / 2), 120)
}

function lastUpTo(beats: readonly number[], at: number): number {
  let low = 0
  let high = beats.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (beats[middle]! <= at) low = middle + 1
    else high = middle
  }
  return low - 1
}

/** The piece of a line in a part, cut where the part ends. */
export function cutTo(line: Line, [from, to]: Pixels): Line {
  const { xs, ys } = line
  const first = xs.findIndex((x) => x >= from)
  if (first < 0) return { xs: [], ys: [] }
  let last = first
  while (last < xs.length && xs[last]! <= to) last++
  const cut: Line = { xs: xs.slice(first, last), ys: ys.slice(first, last) }
  const between = (i: number, x: number) => ys[i - 1]! + ((ys[i]! - ys[i - 1]!) * (x - xs[i - 1]!)) / (xs[i]! - xs[i - 1]!)
  if (first > 0 && xs[first]! > from) {
    cut.xs.unshift(from)
    cut.ys.unshift(between(first, from))
  }
  if (last < xs.length && last > 0 && xs[last]! > to && (cut.xs[cut.xs.length - 1] ?? from) < to) {
    cut.xs.push(to)
    cut.ys.push(between(last, to))
  }
  return cut
}
