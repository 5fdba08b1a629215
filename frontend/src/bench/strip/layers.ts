// Layers: what of each curve is drawn on a strip, where and with which pen, as plain data; the painter only paints it.
import type { Curve, LaneOut, ParameterOut, TouchedOut } from '../../api/client'
import type { Box, Inks, Pen, Pixels } from '../../lib/drawing'
import { fitScale, xOf, type Scale } from '../../lib/geometry'
import { common, pixelsBeside, pixelsOf, seen, wholeOf } from '../../lib/line'
import { inkOf } from '../../state/content'

/** A curve that is drawn in some parts of the window. */
export interface Mark {
  curve: Curve
  pen: Pen
  parts: readonly Pixels[]
  /** Its own scale, where it is not the strip's. */
  scale?: Scale
}
interface Span {
  start: number
  end: number
}
/** What is chosen on the bench. */
export interface Chosen {
  lanes: readonly string[]
  points: Readonly<Record<string, readonly number[]>>
  range: Span | null
}
/** What a strip is about, as it comes from the server. */
export interface Sheet {
  parameter: ParameterOut
  lanes: readonly LaneOut[]
  touched: readonly TouchedOut[]
  curves: ReadonlyMap<string, Curve>
  /** Lane → the spans in which it is heard. */
  heardIn: ReadonlyMap<string, Span[]>
  /** Whose lanes win where both a region's and the track's speak. */
  wins: 'region' | 'track'
}

const UNHEARD = [1, 5]
const PENCIL = [5, 4]
const SHARED = [7, 2]

/** The pen of a parameter's own lanes: what steps is drawn thicker than what glides. */
export function penOf(parameter: ParameterOut, inks: Inks): Pen {
  const color = inks.family[inkOf(parameter)] ?? inks.ink
  return { color, width: parameter.kind === 'continuous' ? 1.6 : 2.2, dash: [], points: 'dots' }
}

/** Every lane beside what a preview changes of it; faint where it is not heard, and there a track's has no points. */
export function laneMarks(box: Box, sheet: Sheet, chosen: Chosen, pen: Pen): Mark[] {
  return sheet.lanes.flatMap((lane) => {
    const curve = sheet.curves.get(lane.id)
    if (!curve || !seen(box, xOf(lane.start, box.view, box.width), xOf(lane.end, box.view, box.width))) return []
    const going = sheet.touched.find((t) => t.lane === lane.id || t.home === 'heard')
    const stays = going ? pixelsBeside(box, pixelsOf(box, [going])) : wholeOf(box)
    const mine = lane.home === 'track' ? stays : common(stays, pixelsOf(box, [lane]))
    const heard = common(mine, pixelsOf(box, sheet.heardIn.get(lane.id) ?? []))
    const inked = { ...pen, filled: filledOn(lane.id, chosen), picked: !!chosen.points[lane.id]?.length }
    const unheard = common(mine, pixelsBeside(box, heard))
    const faint: Pen = { ...inked, faint: true, points: lane.home === 'track' ? 'none' : pen.points }
    return [{ curve, pen: inked, parts: heard }, ...(unheard.length ? [{ curve, pen: faint, parts: unheard }] : [])]
  })
}

/** Which points of a lane are drawn full: the picked ones, else those in the range. */
function filledOn(lane: string, { points, range, lanes }: Chosen): (beat: number, index: number) => boolean {
  const picked = new Set(points[lane])
  const inRange = range && lanes.includes(lane) && !picked.size ? range : null
  return (beat, index) => picked.has(index) || (!!inRange && beat >= inRange.start && beat < inRange.end)
}

/** Lanes of another parameter that shares the strip, on a scale of their own, so without handles. */
export function sharedMarks(
  box: Box,
  other: ParameterOut,
  theirs: readonly LaneOut[],
  curves: ReadonlyMap<string, Curve>,
  strip: Scale,
  inks: Inks,
): Mark[] {
  const scale = fitScale(
    other,
    theirs.map((lane) => lane.low),
    theirs.map((lane) => lane.high),
    strip.top,
    strip.bottom,
  )
  const pen: Pen = { color: inks.family[inkOf(other)] ?? inks.ink, width: 1.2, dash: SHARED, points: 'none' }
  return theirs.flatMap((lane) => {
    const curve = curves.get(lane.id)
    const parts = lane.home === 'track' ? wholeOf(box) : pixelsOf(box, [lane])
    return curve ? [{ curve, pen, parts, scale }] : []
  })
}

/** The value that a parameter without a lane rests at. */
export function restingMark(box: Box, { value }: ParameterOut, pen: Pen): Mark {
  const at = box.view.start
  const curve = { lane: '', start: at, end: at, beats: [at], values: [value], shapes: [0], lows: [], highs: [], first: 0 }
  return { curve, pen: { ...pen, dash: UNHEARD, points: 'none' }, parts: wholeOf(box) }
}

/** Pencil for what is there now; outside the span of a first lane the value that it rests at. */
export function pencilMarks(box: Box, sheet: Sheet, t: TouchedOut, pen: Pen, inks: Inks): Mark[] {
  const isNew = !sheet.lanes.some((lane) => lane.id === t.lane)
  const inRegion = t.home !== 'track' && t.home !== 'heard'
  const span = pixelsOf(box, [t])
  const curve = t.before ?? sheet.curves.get(t.lane)
  if (!curve) return []
  const rests: Pen = { ...pen, dash: UNHEARD, points: 'none' }
  const pencil: Pen = { color: inks.pencil, width: 1.3, dash: PENCIL, points: 'none' }
  return [
    ...(isNew && t.home === 'track' ? [{ curve, pen: rests, parts: pixelsBeside(box, span) }] : []),
    ...(isNew && inRegion ? [] : [{ curve, pen: pencil, parts: span }]),
  ]
}

/** Fresh ink for what would come; faint where a region's lane would be heard instead. */
export function freshMarks(box: Box, sheet: Sheet, t: TouchedOut, inks: Inks): Mark[] {
  if (!t.after) return []
  const span = pixelsOf(box, [t])
  const pen: Pen = { color: inks.fresh, width: 2, dash: [], points: 'diamonds' }
  const covered = t.home === 'track' ? common(span, pixelsOf(box, coversToCome(sheet))) : []
  const faint: Pen = { ...pen, faint: true, points: 'none' }
  return [
    { curve: t.after, pen, parts: common(span, pixelsBeside(box, covered)) },
    ...(covered.length ? [{ curve: t.after, pen: faint, parts: covered }] : []),
  ]
}

/** Where the lanes of regions would win over the track's: those that stay, and those that would come. */
function coversToCome({ wins, touched, lanes, heardIn }: Sheet): Span[] {
  if (wins === 'track') return []
  const going = new Set(touched.map((t) => t.lane))
  const stay = lanes.filter((lane) => lane.home !== 'track' && !going.has(lane.id))
  const come = touched.filter((t) => t.home !== 'track' && t.home !== 'heard' && t.points_after)
  return [...stay.flatMap((lane) => heardIn.get(lane.id) ?? []), ...come]
}
