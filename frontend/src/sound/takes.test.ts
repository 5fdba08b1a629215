// What has sounded is written anew, and nothing that still sounds is.
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { Takes } from './takes'

const FRAMES = 480
const ROOM = 3 * FRAMES * 8 // of three pieces
let made = 0

class Buffer {
  readonly sides: Float32Array[]
  constructor(readonly options: { length: number; numberOfChannels: number }) {
    made++
    this.sides = Array.from({ length: options.numberOfChannels }, () => new Float32Array(options.length))
  }
  get length() {
    return this.options.length
  }
  get numberOfChannels() {
    return this.options.numberOfChannels
  }
  getChannelData(side: number) {
    return this.sides[side]!
  }
}

/** Piece n holds n on the left and −n on the right; the tenth is half as long. */
function answer(address: string): Response {
  const n = Number(/n=(\d+)/.exec(address)![1])
  const length = n === 10 ? FRAMES / 2 : FRAMES
  const samples = new Float32Array(2 * length).fill(n)
  for (let i = 1; i < samples.length; i += 2) samples[i] = -n
  return new Response(samples.buffer, { headers: { 'X-Sides': '2' } })
}

beforeEach(() => {
  made = 0
  vi.stubGlobal('AudioBuffer', Buffer)
  vi.stubGlobal('fetch', (address: string) => Promise.resolve(answer(address)))
})
afterEach(() => vi.unstubAllGlobals())

const ends = (buffer: AudioBuffer | null) =>
  [0, 1].flatMap((side) => [buffer!.getChannelData(side)[0], buffer!.getChannelData(side).at(-1)])

test('what is kept is no more than there is room for, and buffers are written anew', async () => {
  const takes = new Takes(1, ROOM, FRAMES)
  for (let n = 0; n < 12; n++) expect(ends(await takes.of('a', n))).toEqual(n === 10 ? [10, 0, -10, 0] : [n, n, -n, -n])
  expect(made).toBe(4)
  expect(takes.ready('a', 0)).toBeUndefined()
  expect(ends(takes.ready('a', 11)!)).toEqual([11, 11, -11, -11])
})

test('what sounds is left alone until it was let go of as often as it was held', async () => {
  const takes = new Takes(1, ROOM, FRAMES)
  const held = (await takes.of('a', 3))!
  takes.hold(held)
  takes.hold(held)
  takes.letGo(held)
  for (let n = 20; n < 28; n++) await takes.of('a', n)
  expect(ends(held)).toEqual([3, 3, -3, -3])
  takes.letGo(held)
  for (let n = 80; n < 84; n++) await takes.of('a', n)
  expect(held.getChannelData(0)[0]).not.toBe(3)
})
