// How the ledger groups and sorts its lanes. Plain functions over what the server said.
import type { LaneOut, ParameterOut, TrackOut } from '../api/types'

export type Grouping = 'track' | 'family' | 'home'
export type Sorting = 'order' | 'name' | 'points' | 'movement' | 'change'
export const GROUPINGS: Record<Grouping, string> = { track: 'by track', family: 'by family', home: 'by home' }
export const SORTINGS: Record<Sorting, string> = {
  order: 'in order',
  name: 'by name',
  points: 'most points',
  movement: 'most movement',
  change: 'last changed',
}

export interface Owner {
  track: TrackOut
  parameter: ParameterOut
}

export interface Group {
  key: string
  title: string
  track?: TrackOut
  lanes: LaneOut[]
}

/** A group for every track, also for those without a lane, in the session's order. */
export function withEveryTrack(groups: Group[], tracks: TrackOut[]): Group[] {
  const known = new Map(groups.map((group) => [group.key, group]))
  return tracks.map((track) => known.get(track.id) ?? { key: track.id, title: track.name, track, lanes: [] })
}

/** The lanes in groups, both in the order asked for; groups keep the order of their first lane. */
export function grouped(lanes: LaneOut[], owners: Map<string, Owner>, by: Grouping, sorting: Sorting): Group[] {
  const groups = new Map<string, Group>()
  for (const lane of [...lanes].sort(comparing(sorting, owners))) {
    const owner = owners.get(lane.parameter)!
    const { key, title } = groupOf(lane, owner, by)
    const group = groups.get(key)
    if (group) group.lanes.push(lane)
    else groups.set(key, { key, title, lanes: [lane], ...(by === 'track' ? { track: owner.track } : {}) })
  }
  return [...groups.values()]
}

function groupOf(lane: LaneOut, owner: Owner, by: Grouping): { key: string; title: string } {
  if (by === 'family') return { key: owner.parameter.family, title: `Every ${owner.parameter.family}` }
  if (by === 'home') return lane.home === 'track' ? { key: 'track', title: 'On tracks' } : { key: 'region', title: 'In regions' }
  return { key: owner.track.id, title: owner.track.name }
}

function comparing(sorting: Sorting, owners: Map<string, Owner>): (a: LaneOut, b: LaneOut) => number {
  const name = (lane: LaneOut) => {
    const owner = owners.get(lane.parameter)!
    return `${owner.track.name} ${owner.parameter.name}`
  }
  const ways: Record<Sorting, (a: LaneOut, b: LaneOut) => number> = {
    order: () => 0,
    name: (a, b) => name(a).localeCompare(name(b)),
    points: (a, b) => b.points - a.points,
    movement: (a, b) => b.movement - a.movement,
    change: (a, b) => b.changed - a.changed,
  }
  return ways[sorting]
}
