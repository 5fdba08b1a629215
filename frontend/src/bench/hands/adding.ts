// A double click puts a point where it is; on a region's name it looks closer at the region.
import type { Hand } from './hand'

export async function addPoint(hand: Hand, beat: number, value: number): Promise<void> {
  const { parameter, homeAt } = hand.shown
  await hand.session.apply({
    verb: 'add points',
    parameter: parameter.value.id,
    home: homeAt(beat),
    spots: [{ at: beat, value }],
  })
}

export async function doubleClick(hand: Hand, event: MouseEvent): Promise<void> {
  const at = hand.at(event)
  const foot = hand.shown.footAt(at.x, at.y)
  if (foot?.region) return hand.bench.lookCloser(foot.region.id)
  if (foot || hand.spotAt(at.x, at.y) || hand.worksheet.verb === 'draw') return
  await addPoint(hand, hand.snapClick(at.beat, event.altKey), hand.valueAt(at.y))
}
