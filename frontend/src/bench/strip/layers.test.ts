// What of each curve is drawn where, and with which pen: 16 beats over 1,600 pixels, so that a beat is 100 of them from 12 on.
import { expect, test } from 'vitest'
import type { Curve, LaneOut, ParameterOut, TouchedOut } from '../../api/client'
import type { Inks } from '../../lib/drawing'
import { freshMarks, laneMarks, penOf, pencilMarks, restingMark, sharedMarks, type Chosen, type Mark, type Sheet } from './layers'

const BOX = { view: { start: 0, end: 16 }, width: 1600, height: 100 }
const WHOLE = [6, 1618]
const INKS = { family: { level: 'blue', mute: 'green' }, ink: 'black', pencil: 'grey', fresh: 'red' } as unknown as Inks
const AXIS = { logarithmic: false, floor: null, marks: [] }
const LEVEL = {
  id: 'p',
  family: 'level',
  kind: 'continuous',
  value: -6,
  low: -96,
  high: 12,
  axis: AXIS,
} as unknown as ParameterOut
const NOTHING: Chosen = { lanes: [], points: {}, range: null }

const curveOf = (lane: string) =>
  ({ lane, start: 0, end: 16, beats: [0], values: [-6], shapes: [0], lows: [], highs: [], first: 0 }) as Curve
const laneOf = (id: string, home: string, start: number, end: number) =>
  ({ id, home, start, end, low: -12, high: 0 }) as unknown as LaneOut
const touchedOf = (some: object) =>
  ({ start: 4, end: 8, home: 'track', after: curveOf('after'), before: null, ...some }) as TouchedOut
function sheetOf(some: Partial<Sheet> = {}): Sheet {
  const lanes = [laneOf('T', 'track', 0, 16), laneOf('R', 'r', 6, 10)]
  const heardIn = new Map([
    ['T', [{ start: 0, end: 6 }, { start: 10, end: 16 }]], // prettier-ignore
    ['R', [{ start: 6, end: 10 }]],
  ])
  const curves = new Map(lanes.map((lane) => [lane.id, curveOf(lane.id)]))
  return { parameter: LEVEL, lanes, touched: [], curves, heardIn, wins: 'region', ...some }
}
const PEN = penOf(LEVEL, INKS)
const seen = (marks: Mark[]) => marks.map(({ curve, pen, parts }) => [curve.lane, !!pen.faint, pen.points, parts])

test('a lane is faint where another is heard, and there the track’s has no points', () => {
  expect(seen(laneMarks(BOX, sheetOf(), NOTHING, PEN))).toEqual([
    ['T', false, 'dots', [[12, 612], [1012, 1612]]], // prettier-ignore
    [
      'T',
      true,
      'none',
      [
        [6, 12],
        [612, 1012],
        [1612, 1618],
      ],
    ], // beside the session’s ends nothing is heard
    ['R', false, 'dots', [[612, 1012]]],
  ])
})

test('a region’s lane that is not heard is faint with its points; what is out of sight, or not known, is not drawn', () => {
  const silent = sheetOf({ heardIn: new Map() })
  expect(seen(laneMarks(BOX, silent, NOTHING, PEN)).slice(-1)).toEqual([['R', true, 'dots', [[612, 1012]]]])
  const later = { ...BOX, view: { start: 20, end: 36 } }
  expect(laneMarks(later, sheetOf(), NOTHING, PEN)).toEqual([])
  expect(laneMarks(BOX, sheetOf({ curves: new Map() }), NOTHING, PEN)).toEqual([])
})

test('where a preview changes a lane it is left to pencil and fresh ink', () => {
  const t = touchedOf({ lane: 'T', before: curveOf('before') })
  const sheet = sheetOf({ touched: [t] })
  expect(seen(laneMarks(BOX, sheet, NOTHING, PEN))[0]).toEqual(['T', false, 'dots', [[12, 412], [1012, 1612]]]) // prettier-ignore
  const [pencil, ...rest] = pencilMarks(BOX, sheet, t, PEN, INKS)
  expect([pencil!.curve.lane, pencil!.pen.color, pencil!.pen.dash, pencil!.parts]).toEqual([
    'before',
    'grey',
    [5, 4],
    [[412, 812]],
  ])
  expect(rest).toEqual([])
  expect(seen(freshMarks(BOX, sheet, t, INKS))).toEqual([
    ['after', false, 'diamonds', [[412, 612]]],
    ['after', true, 'none', [[612, 812]]],
  ])
  expect(seen(freshMarks(BOX, { ...sheet, wins: 'track' }, t, INKS))).toEqual([['after', false, 'diamonds', [[412, 812]]]])
  expect(freshMarks(BOX, sheet, touchedOf({ lane: 'T', after: null }), INKS)).toEqual([])
})

test('a region’s lane that would come covers what would come on the track', () => {
  const t = touchedOf({ lane: 'T' })
  const comes = touchedOf({ lane: 'new', home: 'r2', start: 4, end: 5, points_after: 3 })
  const goes = touchedOf({ lane: 'R', home: 'r', start: 6, end: 10, points_after: 0 })
  const sheet = sheetOf({ touched: [t, comes, goes] })
  expect(seen(freshMarks(BOX, sheet, t, INKS)).map(([, faint, , parts]) => [faint, parts])).toEqual([
    [false, [[512, 812]]],
    [true, [[412, 512]]],
  ])
})

test('a first lane shows the resting value outside its span; one in a region has nothing before it', () => {
  const first = touchedOf({ lane: 'new', before: curveOf('rests') })
  const bare = sheetOf({ lanes: [], touched: [first] })
  const marks = pencilMarks(BOX, bare, first, PEN, INKS)
  expect(marks.map(({ pen, parts }) => [pen.color, pen.dash, parts])).toEqual([
    ['blue', [1, 5], [[6, 412], [812, 1618]]], // prettier-ignore
    ['grey', [5, 4], [[412, 812]]],
  ])
  expect(pencilMarks(BOX, bare, touchedOf({ lane: 'new', home: 'r', before: curveOf('x') }), PEN, INKS)).toEqual([])
  expect(pencilMarks(BOX, bare, touchedOf({ lane: 'new' }), PEN, INKS)).toEqual([])
  const resting = restingMark(BOX, LEVEL, PEN)
  expect([resting.curve.values, resting.pen.dash, resting.pen.points, resting.parts]).toEqual([[-6], [1, 5], 'none', [WHOLE]])
})

test('picked points are full; without them those in the range of a chosen lane', () => {
  const range = { start: 2, end: 4 }
  const filled = (chosen: Partial<Chosen>) => laneMarks(BOX, sheetOf(), { ...NOTHING, ...chosen }, PEN)[0]!.pen
  const inRange = filled({ range, lanes: ['T'] })
  expect([1.9, 2, 3.9, 4].map((beat) => inRange.filled!(beat, 0))).toEqual([false, true, true, false])
  expect(inRange.picked).toBe(false)
  const picked = filled({ range, lanes: ['T'], points: { T: [5] } })
  expect([picked.filled!(3, 0), picked.filled!(9, 5), picked.picked]).toEqual([false, true, true])
  expect(filled({ range, lanes: ['R'] }).filled!(3, 0)).toBe(false)
})

test('what shares a strip stands on its own scale, dashed and without points', () => {
  const strip = { top: 20, bottom: 90 } as never
  const [track, region] = sharedMarks(BOX, LEVEL, sheetOf().lanes, sheetOf().curves, strip, INKS)
  expect([track!.pen.dash, track!.pen.points, track!.parts, region!.parts]).toEqual([[7, 2], 'none', [WHOLE], [[612, 1012]]])
  expect([track!.scale!.top, track!.scale!.bottom]).toEqual([20, 90])
})

test('what steps is drawn thicker, in the ink of all that does', () => {
  expect([PEN.color, PEN.width]).toEqual(['blue', 1.6])
  expect(penOf({ ...LEVEL, kind: 'switch' }, INKS)).toMatchObject({ color: 'black', width: 2.2 })
})
