// A step put onto a session: what it names changes, all else is the very same.
import { expect, test } from 'vitest'
import type { LaneOut, SessionOut, Stepped, TrackOut } from '../api/client'
import { patched } from './patching'

const lane = (id: string, points: number) => ({ id, points, parameter: `p.${id}` }) as LaneOut
const track = (id: string, mode: string) => ({ id, mode }) as TrackOut
const before = {
  id: 1,
  revision: 3,
  name: 'Reed',
  length: 64,
  first: { curves: [] },
  tracks: [track('a', 'read'), track('b', 'off')],
  lanes: [lane('L1', 4), lane('L2', 5), lane('L3', 6)],
  speaking: { 'p.L1': [{ start: 0, end: 64, lane: 'L1' }], 'p.L2': [{ start: 0, end: 64, lane: 'L2' }] },
} as unknown as SessionOut
const step = {
  ...{ revision: 4, name: 'Reed', precedence: 'region', undo: 'Clear', redo: null, activity: [1], matches: [], damaged: [] },
  tracks: [track('b', 'read')],
  lanes: [lane('L2', 9), lane('L4', 2)],
  gone: ['L3'],
  order: ['L4', 'L1', 'L2'],
  speaking: { 'p.L2': [{ start: 0, end: 64, lane: null }] },
  redrawn: ['L2', 'L4'],
  heard: ['p.L2'],
} as unknown as Stepped

test('lanes come, go, change and keep the order that is said', () => {
  const after = patched(before, step)
  expect(after.lanes.map((x) => [x.id, x.points])).toEqual([
    ['L4', 2],
    ['L1', 4],
    ['L2', 9],
  ])
  expect(after.lanes[1]).toBe(before.lanes[0])
  expect([after.revision, after.undo, after.length]).toEqual([4, 'Clear', 64])
  expect(after.first).toBeNull()
})
test('tracks and who speaks are replaced one by one', () => {
  const after = patched(before, { ...step, order: null, gone: [] })
  expect(after.tracks.map((t) => t.mode)).toEqual(['read', 'read'])
  expect(after.tracks[0]).toBe(before.tracks[0])
  expect(after.speaking['p.L2']).toEqual([{ start: 0, end: 64, lane: null }])
  expect(after.speaking['p.L1']).toBe(before.speaking['p.L1'])
  expect(after.lanes.map((x) => x.id)).toEqual(['L1', 'L2', 'L3'])
})
