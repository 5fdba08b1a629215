// Taking hold of a placement by its rule: a click chooses it, with Shift or Ctrl one more; a drag moves the chosen ones, at
// an end it stretches; with Shift held it turns what is inside them, with Ctrl up and down makes them deeper or less deep.
import { nextTick } from 'vue'
import type { PlacementOut } from '../../api/client'
import { toggled } from '../../state/selection'
import { adds, type Hand } from './hand'

const AS_THEY_ARE = {
  verb: 'change places',
  move: 0,
  length: null,
  low: null,
  high: null,
  depth: null,
  to_each_side: null,
  upside_down: null,
  backwards: null,
  turn: null,
  phrase: null,
} as const

export function holdPlace(hand: Hand, event: PointerEvent, place: PlacementOut, end: 'start' | 'end' | null): void {
  const { selection, session, worksheet } = hand
  const adding = adds(event)
  const was = selection.places.includes(place.id)
  if (!was) selection.places = adding ? [...selection.places, place.id] : [place.id]
  worksheet.placing = 'change'
  worksheet.verb = 'place'
  const from = hand.at(event)
  const ids = selection.places
  hand.take(event, {
    gone: () => (ids.every((id) => session.placements.has(id)) ? null : 'The place that was held is no longer there'),
    move: (next) => {
      const here = hand.at(next)
      const now = session.placements.get(place.id)!
      const by = here.beat - from.beat
      if (end) {
        const last = now.start + now.length
        const edge = hand.snap((end === 'start' ? now.start : last) + by, next.altKey)
        const length = Math.max(end === 'start' ? last - edge : edge - now.start, 0.01)
        const move = end === 'start' ? last - length - now.start : 0
        const ratio = session.phrases.get(now.phrase)!.length
        hand.say(here.x, here.y, `${+length.toFixed(3)} beats, ${+(length / ratio).toFixed(3)} × its length`)
        return { ...AS_THEY_ARE, placements: [place.id], move, length }
      }
      if (next.shiftKey) {
        const turn = (((now.turn + by) % now.length) + now.length) % now.length
        hand.say(here.x, here.y, `turned by ${+turn.toFixed(3)} beats`)
        return { ...AS_THEY_ARE, placements: ids, turn }
      }
      if (next.ctrlKey || next.metaKey) {
        const depth = Math.max(Math.round((now.depth + (from.y - here.y) / 2) * 10) / 10, 0.1)
        hand.say(here.x, here.y, `${depth} % deep`)
        return { ...AS_THEY_ARE, placements: ids, depth }
      }
      const move = hand.snap(now.start + by, next.altKey) - now.start
      hand.say(here.x, here.y, `to ${session.position(now.start + move)}`)
      return { ...AS_THEY_ARE, placements: ids, move }
    },
    click: () => {
      if (worksheet.folded) void nextTick(() => (worksheet.editing = 'placements')) // its card, above the sentence
      if (was) selection.places = adding ? toggled(selection.places, place.id) : [place.id]
    },
  })
}
