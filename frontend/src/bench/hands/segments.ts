// Bending a segment: its middle is dragged up or down; a click there chooses its lane.
import { type Hand, type Middle } from './hand'

const BEND_A_PIXEL = 0.05
const MOST = 20
const STRAIGHT = 0.15 // bends below this snap to straight

export function bendSegment(hand: Hand, event: PointerEvent, middle: Middle): void {
  const from = event.clientY
  hand.take(event, {
    move: (next) => {
      const away = (next.clientY - from) * (middle.up ? BEND_A_PIXEL : -BEND_A_PIXEL)
      const k = Math.min(Math.max(middle.bend + away, -MOST), MOST)
      const bend = Math.abs(k) < STRAIGHT ? 0 : Math.round(k * 100) / 100
      const at = hand.at(next)
      hand.say(at.x, at.y, bend ? `bend ${bend}` : 'straight')
      return { verb: 'shape segments', picked: [{ lane: middle.lane, points: [middle.index] }], bend }
    },
    click: () => {
      hand.bench.cursor = hand.snapClick(hand.at(event).beat, event.altKey)
      hand.selection.lanes = [middle.lane]
    },
  })
}
