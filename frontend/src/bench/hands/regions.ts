// Taking hold of a region by its name: a click chooses it, with Shift or Ctrl one more; a drag moves the chosen ones.
import type { RegionOut } from '../../api/client'
import { toggled } from '../../state/selection'
import { adds, type Hand } from './hand'

const AS_THEY_ARE = {
  verb: 'carry regions',
  targets: [] as string[],
  times: 1,
  until: null,
  every: null,
  automation: 'with',
  under: 'stays',
  missing: 'leave out',
  set_to_read: false,
} as const

export function holdRegion(hand: Hand, event: PointerEvent, region: RegionOut): void {
  const { selection, session, bench } = hand
  const adding = adds(event)
  const was = selection.regions.includes(region.id)
  if (!was) selection.regions = adding ? [...selection.regions, region.id] : [region.id]
  if (hand.worksheet.verb !== 'embed') hand.worksheet.verb = 'regions'
  const from = hand.at(event)
  const ids = selection.regions
  hand.take(event, {
    gone: () => (ids.every((id) => session.regions.has(id)) ? null : `${region.name} is no longer there`),
    move: (next) => {
      const here = hand.at(next)
      const chosen = ids.flatMap((id) => session.regions.get(id)?.region ?? [])
      const first = Math.min(...chosen.map((r) => r.start))
      const last = Math.max(...chosen.map((r) => r.start + r.length))
      const { start } = session.regions.get(region.id)!.region
      const by = hand.snap(start + here.beat - from.beat, next.altKey) - start
      const at = Math.min(Math.max(first + by, 0), Math.max(bench.length - (last - first), 0))
      const how = next.ctrlKey ? 'copy' : 'move'
      hand.say(here.x, here.y, `${how} to ${session.position(at)}`)
      return { ...AS_THEY_ARE, regions: ids, at, how }
    },
    click: () => {
      if (was) selection.regions = adding ? toggled(selection.regions, region.id) : [region.id]
    },
  })
}
