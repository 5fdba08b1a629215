// The ledger's grouping and sorting.
import { expect, test } from 'vitest'
import type { LaneOut, TrackOut } from '../api/types'
import { grouped, withEveryTrack, type Owner } from './order'

const tracks = ['Bell', 'Choir', 'Air'].map((name) => ({ id: name, name }) as TrackOut)
const owners = new Map<string, Owner>(
  tracks.flatMap((track) =>
    ['level', 'pan'].map((family) => [`${track.id}.${family}`, { track, parameter: { name: family, family } } as Owner] as const),
  ),
)
const lane = (parameter: string, points: number, home = 'track', changed = 0) =>
  ({ id: parameter + home, parameter, points, home, changed, movement: points / 10 }) as LaneOut
const lanes = [lane('Bell.pan', 3), lane('Bell.level', 9), lane('Choir.level', 5, 'r1', 2), lane('Air.pan', 7)]
const said = (by: Parameters<typeof grouped>[2], sorting: Parameters<typeof grouped>[3]) =>
  grouped(lanes, owners, by, sorting).map((g) => `${g.title}: ${g.lanes.map((x) => x.parameter).join(' ')}`)

test('by track in the order of the session, by family, by home', () => {
  expect(said('track', 'order')).toEqual(['Bell: Bell.pan Bell.level', 'Choir: Choir.level', 'Air: Air.pan'])
  expect(said('family', 'order')).toEqual(['Every pan: Bell.pan Air.pan', 'Every level: Bell.level Choir.level'])
  expect(said('home', 'order')).toEqual(['On tracks: Bell.pan Bell.level Air.pan', 'In regions: Choir.level'])
})
test('most points, last changed and names come first where they are asked for', () => {
  expect(said('track', 'points')).toEqual(['Bell: Bell.level Bell.pan', 'Air: Air.pan', 'Choir: Choir.level'])
  expect(said('track', 'change')[0]).toBe('Choir: Choir.level')
  expect(said('family', 'name')).toEqual(['Every pan: Air.pan Bell.pan', 'Every level: Bell.level Choir.level'])
})
test('tracks without a lane stand in their place', () => {
  const groups = withEveryTrack(grouped([lanes[3]!], owners, 'track', 'order'), tracks)
  expect(groups.map((g) => [g.title, g.lanes.length])).toEqual([
    ['Bell', 0],
    ['Choir', 0],
    ['Air', 1],
  ])
})
