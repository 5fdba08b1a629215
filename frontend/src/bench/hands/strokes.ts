// Drawing: a freehand stroke, or a straight line, becomes the lane under it; or a shape is painted, a cycle a grid cell.
import { gridStep } from '../../lib/geometry'
import { valueText } from '../../lib/said'
import { placing, USUAL_SHAPE } from '../../lib/usualShape'
import { type Hand } from './hand'

export function drawStroke(hand: Hand, event: PointerEvent): void {
  if (hand.worksheet.drawing.way === 'shape') return paintShape(hand, event)
  const { shown, stroke } = hand
  const { way, tolerance } = hand.worksheet.drawing
  const parameter = shown.parameter.value
  const from = hand.at(event)
  const home = shown.homeAt(from.beat)
  const line = way === 'line'
  const spots = [{ at: line ? hand.snap(from.beat, event.altKey) : from.beat, value: hand.valueAt(from.y) }]
  stroke.value = [{ x: from.x, y: from.y }]
  hand.take(event, {
    move: (next) => {
      for (const part of line ? [next] : (next.getCoalescedEvents?.() ?? [next])) {
        const at = hand.at(part)
        const spot = { at: line ? hand.snap(at.beat, next.altKey) : at.beat, value: hand.valueAt(at.y) }
        if (line) spots.splice(1, 1, spot)
        else spots.push(spot)
        stroke.value = line ? [stroke.value[0]!, { x: at.x, y: at.y }] : [...stroke.value, { x: at.x, y: at.y }]
        hand.say(at.x, at.y, valueText(parameter, spot.value))
      }
      shown.redraw()
      if (Math.abs(spots[0]!.at - spots[spots.length - 1]!.at) < 1e-6) return undefined
      const within = line ? 0 : tolerance
      return { verb: 'draw', parameter: parameter.id, stroke: [...spots], tolerance: within, home }
    },
    end: () => {
      stroke.value = []
      shown.redraw()
    },
  })
}

/** A cycle a cell of the grid, from where it is pressed to the pointer, as deep to both sides as the pointer is far: places of
 *  one phrase, which every stroke of the same kind shares. */
function paintShape(hand: Hand, event: PointerEvent): void {
  const { shown, bench, selection, session } = hand
  const from = hand.at(event)
  const home = shown.homeAt(from.beat)
  const bar = session.data!.bars.filter((b) => b.beat <= from.beat).at(-1)
  const cell = bench.grid === 'bar' ? ((bar?.count ?? 4) * 4) / (bar?.unit ?? 4) : bench.grid === 'off' ? 1 : gridStep(bench.grid)
  const shape = { ...USUAL_SHAPE, kind: hand.worksheet.drawing.kind }
  const there = new Set(session.placements.keys())
  hand.take(event, {
    move: (next) => {
      const here = hand.at(next)
      const [start, end] = [from.beat, here.beat].map((beat) => hand.snap(beat, next.altKey)).sort((a, b) => a - b) as [
        number,
        number,
      ]
      const far = Math.max(Math.abs(here.y - from.y), 1)
      const [low, high] = [hand.valueAt(from.y + far), hand.valueAt(from.y - far)]
      hand.say(here.x, here.y, `${valueText(shown.parameter.value, low)} to ${valueText(shown.parameter.value, high)}`)
      if (end - start < 1e-6 || low === high) return undefined
      const targets = [{ parameter: shown.parameter.value.id, home, low, high }]
      return placing({ targets, start, end, deep: 'between', shape, length: Math.min(cell, end - start), times: null })
    },
    done: () => (selection.places = [...session.placements.keys()].filter((id) => !there.has(id))),
  })
}
