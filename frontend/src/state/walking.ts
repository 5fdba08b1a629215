// Walking from lane to lane: along a track, or the same parameter from track to track.
import type { LaneOut } from '../api/client'
import { useBench } from './bench'
import { useSelection } from './selection'
import { useSession } from './session'

export function useWalking() {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()

  /** Step to the next or previous lane of the track, or to the same parameter on the next or previous track with it in use. */
  return (way: 'lane' | 'track', by: 1 | -1): void => {
    const all = session.data?.lanes ?? []
    const here = session.lanes.get(selection.lanes[0] ?? '') ?? session.lanesOf.get(bench.strips[0] ?? '')?.[0] ?? all[0]
    const owner = here && session.parameters.get(here.parameter)
    if (!here || !owner) return
    const alike = all.filter((lane: LaneOut) => {
      const other = session.parameters.get(lane.parameter)!
      if (way === 'lane') return lane.track === here.track
      return other.parameter.family === owner.parameter.family && other.parameter.name === owner.parameter.name
    })
    const next = alike[(alike.findIndex((lane) => lane.id === here.id) + by + alike.length) % alike.length]!
    bench.replace(here.parameter, next.parameter)
    selection.lanes = [next.id]
    bench.going = next.parameter
  }
}
