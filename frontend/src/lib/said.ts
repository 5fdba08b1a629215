// Values, distances and places in words: by the core's own rules, as a table made from it says in its tests.
import type { ParameterOut, SessionOut } from '../api/types'
import { lastAtOrBefore, nearestMark } from './geometry'

const TICKS = 1_612_800 // to the beat
const MOST_DECIMALS = 9
const EXACT = 60 // digits after which a number this page meets goes on in noughts

/** A number with so many digits after the point: exact halves go to the even digit, and nothing is less than no less. */
export function numberText(value: number, decimals: number): string {
  const size = Math.abs(value)
  let text = size.toFixed(decimals)
  const exact = size.toFixed(Math.min(decimals + EXACT, 100))
  const cut = exact.length - (Math.min(decimals + EXACT, 100) - decimals)
  if (/^50*$/.test(exact.slice(cut).replace('.', ''))) {
    const down = exact.slice(0, cut).replace(/\.$/, '')
    if (Number(down.at(-1)) % 2 === 0) text = down
  }
  return value < 0 && Number(text) !== 0 ? `−${text}` : text
}

function decimalsOf({ axis }: ParameterOut, value: number): number {
  if (axis.significant === null) return axis.decimals
  return Math.max(axis.significant - 1 - Math.floor(Math.log10(Math.max(Math.abs(value), 1e-6))), 0)
}

/** A value as people read it, with its unit; in words where it has them. */
export function valueText(parameter: ParameterOut, value: number): string {
  const { axis, unit, low } = parameter
  if (parameter.kind !== 'continuous') return nearestMark(parameter, value)?.text ?? ''
  const silent = axis.floor !== null && value <= low && low <= axis.floor
  return `${silent ? axis.floor_text : numberText(value, decimalsOf(parameter, value))} ${unit}`.trim()
}

/** How far it is between two values, in the unit of distances. */
export function distanceText(parameter: ParameterOut, distance: number): string {
  const { axis } = parameter
  if (parameter.kind !== 'continuous') return `${distance} step${distance === 1 ? '' : 's'}`
  let decimals = axis.logarithmic ? 2 : decimalsOf(parameter, distance) + 1
  const size = Math.abs(distance)
  if (size > 0 && size < 0.5 * 10 ** -decimals) decimals = Math.min(Math.ceil(-Math.log10(size)), MOST_DECIMALS)
  return `${numberText(distance, decimals)} ${axis.unit}`.trim()
}

/** A beat as bar.beat.hundredths: whole hundredths that have gone by, counted from the tick that is meant. */
export function positionText(beat: number, bars: SessionOut['bars']): string {
  const tick = Math.round(beat * TICKS)
  const last = bars[lastAtOrBefore(bars, (b) => Math.round(b.beat * TICKS), tick)]
  if (!last) return '1.1.00'
  const each = (TICKS * 4) / last.unit
  const inside = Math.max(tick - Math.round(last.beat * TICKS), 0)
  const beats = Math.floor(inside / each)
  const hundredths = Math.floor(((inside % each) * 100) / each)
  const bar = last.number + Math.floor(beats / last.count)
  return `${bar}.${(beats % last.count) + 1}.${String(hundredths).padStart(2, '0')}`
}

/** A beat as minutes, seconds and thousandths, by the server's clock table. */
export function clockText(beat: number, clock: SessionOut['clock']): string {
  const i = Math.min(
    lastAtOrBefore(clock, (c) => c.beat, beat),
    Math.max(clock.length - 2, 0),
  )
  const from = clock[i] ?? { beat: 0, seconds: 0 }
  const to = clock[i + 1] ?? { beat: from.beat + 1, seconds: from.seconds }
  const part = (beat - from.beat) / (to.beat - from.beat)
  const thousandths = Math.round(Math.max(from.seconds + part * (to.seconds - from.seconds), 0) * 1000)
  return `${Math.floor(thousandths / 60_000)}:${((thousandths % 60_000) / 1000).toFixed(3).padStart(6, '0')}`
}
