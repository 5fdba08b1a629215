// Taking hold of a placement by its rule: a click chooses it, with Shift or Ctrl one more; a drag moves the chosen ones, at
// an end it stretches; with Shift held it turns what is inside them, with Ctrl up and down makes them deeper or less deep.
import { nextTick } from 'vue'
import type { PlacementOut } from '../../api/client'
import { follow } from '../../dragging'
import { toggled } from '../../state/selection'
import { adds, DRAG, type Hand } from './hand'

const AS_THEY_ARE = {
  verb: 'change places',
  move: 0,
  length: null,
  low: null,
  high: null,
  depth: null,
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
  follow(
    event,
    {
      from: DRAG,
      move: (next) => {
        const here = hand.at(next)
        const last = place.start + place.length
        if (end) {
          const edge = hand.snap((end === 'start' ? place.start : last) + here.beat - from.beat, next.altKey)
          const length = Math.max(end === 'start' ? last - edge : edge - place.start, 0.01)
          const move = end === 'start' ? last - length - place.start : 0
          hand.preview.gesture = { ...AS_THEY_ARE, placements: [place.id], move, length }
          const ratio = session.phrases.get(place.phrase)!.length
          hand.say(here.x, here.y, `${+length.toFixed(3)} beats, ${+(length / ratio).toFixed(3)} × its length`)
        } else if (next.shiftKey) {
          const turn = (((place.turn + here.beat - from.beat) % place.length) + place.length) % place.length
          hand.preview.gesture = { ...AS_THEY_ARE, placements: selection.places, turn }
          hand.say(here.x, here.y, `turned by ${+turn.toFixed(3)} beats`)
        } else if (next.ctrlKey || next.metaKey) {
          const depth = Math.max(Math.round((place.depth + (from.y - here.y) / 2) * 10) / 10, 0.1)
          hand.preview.gesture = { ...AS_THEY_ARE, placements: selection.places, depth }
          hand.say(here.x, here.y, `${depth} % deep`)
        } else {
          const move = hand.snap(place.start + here.beat - from.beat, next.altKey) - place.start
          hand.preview.gesture = { ...AS_THEY_ARE, placements: selection.places, move }
          hand.say(here.x, here.y, `to ${session.position(place.start + move)}`)
        }
      },
      drop: (dragged) => {
        hand.drop()
        if (dragged) void hand.finish()
        else if (worksheet.folded) void nextTick(() => (worksheet.editing = 'placements')) // its card, above the sentence
        if (!dragged && was) selection.places = adding ? toggled(selection.places, place.id) : [place.id]
      },
    },
    hand.shown.plot.value!,
  )
}
