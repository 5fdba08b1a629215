// Plain functions between beats, values and pixels. Nothing here decides anything: it only draws.
import type { ParameterOut, SessionOut } from '../api/types'

export interface View {
  start: number
  end: number
}

export const LEFT = 12
export const RIGHT = 64
const NARROWEST = 1 / 64

/** A window of beats kept inside the session and not too narrow to see. */
export function clampView(view: View, length: number): View {
  const width = Math.min(Math.max(view.end - view.start, NARROWEST), length * 1.02)
  const start = Math.min(Math.max(view.start, 0), Math.max(length * 1.02 - width, 0))
  return { start, end: start + width }
}

export function xOf(beat: number, view: View, width: number): number {
  return LEFT + ((beat - view.start) / (view.end - view.start)) * width
}

export function beatAt(x: number, view: View, width: number): number {
  return view.start + ((x - LEFT) / width) * (view.end - view.start)
}

/** The coordinate in which a parameter's curves are straight. */
export function toAxis({ axis }: ParameterOut, value: number): number {
  return axis.logarithmic ? Math.log2(value) : value
}

/** The value at a coordinate of the axis. */
export function fromAxis({ axis }: ParameterOut, y: number): number {
  return axis.logarithmic ? 2 ** y : y
}

/** The mark closest to a value: of named values the one that is meant. */
export function nearestMark({ axis }: ParameterOut, value: number) {
  return [...axis.marks].sort((a, b) => Math.abs(a.value - value) - Math.abs(b.value - value))[0]
}

/** The part of an axis a strip shows, and where it lies in pixels. */
export interface Scale {
  parameter: ParameterOut
  low: number
  high: number
  top: number
  bottom: number
}

/** A scale that fits what lanes do (values), with air around; labelled values are all shown. */
export function fitScale(parameter: ParameterOut, lows: number[], highs: number[], top: number, bottom: number): Scale {
  const least = toAxis(parameter, parameter.low)
  const most = toAxis(parameter, parameter.high)
  const labelled = parameter.kind !== 'continuous'
  const inAxis = (values: number[]) => values.map((v) => toAxis(parameter, v))
  let low = labelled ? least : Math.min(...inAxis(lows), toAxis(parameter, parameter.value))
  let high = labelled ? most : Math.max(...inAxis(highs), toAxis(parameter, parameter.value))
  const smallest = labelled ? 0 : (most - least) * 0.12
  const spare = Math.max((smallest - (high - low)) / 2, 0) + (high - low) * (labelled ? 0.16 : 0.1)
  low -= spare
  high += spare
  if (!labelled) {
    low = Math.max(low, least - (most - least) * 0.02)
    high = Math.min(high, most + (most - least) * 0.02)
  }
  return { parameter, low, high, top, bottom }
}

/** As much of what is heard as a strip makes room for: half of what its lanes span, on each side. */
export function heardReach(parameter: ParameterOut, lows: number[], highs: number[], heard: { low: number; high: number }) {
  const inAxis = (values: number[]) => [...values, parameter.value].map((v) => toAxis(parameter, v))
  const [low, high] = [Math.min(...inAxis(lows)), Math.max(...inAxis(highs))]
  const room = Math.max(high - low, (toAxis(parameter, parameter.high) - toAxis(parameter, parameter.low)) * 0.12) / 2
  return {
    low: fromAxis(parameter, Math.max(toAxis(parameter, heard.low), low - room)),
    high: fromAxis(parameter, Math.min(toAxis(parameter, heard.high), high + room)),
  }
}

export function yOf(scale: Scale, value: number): number {
  return yOfAxis(scale, toAxis(scale.parameter, value))
}

export function yOfAxis(scale: Scale, y: number): number {
  const part = (y - scale.low) / (scale.high - scale.low)
  return scale.bottom - part * (scale.bottom - scale.top)
}

/** How far a bent segment has come at x in 0..1; the server's formula, for drawing between two points. */
export function bend(x: number, k: number): number {
  return Math.abs(k) < 1e-9 ? x : Math.expm1(k * x) / Math.expm1(k)
}

type Bars = SessionOut['bars']

export function lastAtOrBefore<T>(list: readonly T[], key: (item: T) => number, at: number): number {
  let low = 0
  let high = list.length - 1
  while (low < high) {
    const middle = Math.ceil((low + high) / 2)
    if (key(list[middle]!) <= at + 1e-9) low = middle
    else high = middle - 1
  }
  return low
}

/** Of the grid line and the magnet within reach that which is nearer to a beat; lines start anew at every bar. */
export function snapped(
  beat: number,
  grid: string,
  bars: Bars,
  length: number,
  magnets?: { beats: number[]; within: number },
): number {
  const near = magnets?.beats.filter((b) => Math.abs(b - beat) <= magnets.within) ?? []
  const magnet = near.sort((a, b) => Math.abs(a - beat) - Math.abs(b - beat))[0]
  const line = lineAt(beat, grid, bars, length)
  return magnet !== undefined && (line === null || Math.abs(magnet - beat) <= Math.abs(line - beat))
    ? magnet
    : (line ?? Math.min(Math.max(beat, 0), length))
}

/** The grid line nearest to a beat; none without a grid. */
function lineAt(beat: number, grid: string, bars: Bars, length: number): number | null {
  if (grid === 'off' || !bars.length) return null
  const i = lastAtOrBefore(bars, (b) => b.beat, beat)
  const bar = bars[i]!
  const next = bars[i + 1]?.beat ?? length
  if (grid === 'bar') return beat - bar.beat < next - beat ? bar.beat : next
  const step = gridStep(grid)
  const line = bar.beat + Math.round((beat - bar.beat) / step) * step
  return Math.abs(next - beat) < Math.abs(line - beat) ? next : Math.min(Math.max(line, 0), next)
}

export function gridStep(grid: string): number {
  const [, unit, triplet] = /^1\/(\d+)(t?)$/.exec(grid) ?? []
  return ((4 / Number(unit ?? 4)) * (triplet ? 2 : 3)) / 3
}

/** Bars to number on a ruler: every one, or every 2nd, 4th, 8th … where they are dense. */
export function barStride(bars: Bars, view: View, width: number): number {
  const first = bars[0]
  if (!first) return 1
  const perBar = ((first.count * 4) / first.unit / (view.end - view.start)) * width
  let stride = 1
  while (perBar * stride < 38) stride *= 2
  return stride
}
