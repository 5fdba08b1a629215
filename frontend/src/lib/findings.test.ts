import { describe, expect, it } from 'vitest'
import { usualBounds } from './bounds'
import { keyOf, rowsOf, sureness } from './findings'

const one = (kind: string, of: string, track: string, start: number) => ({ kind, of, at: 0, track, start, let_be: false })
const found = [one('gap', 'L1', 'bell', 9), one('gap', 'L2', 'horn', 2), one('flat', 'L3', 'bell', 0), one('names', 'x', '', 5)]
const names = {
  kinds: new Map([
    ['flat', 'flat'],
    ['gap', 'gaps'],
    ['names', 'names that cannot be told apart'],
  ]),
  tracks: new Map([
    ['horn', 'Horn'],
    ['bell', 'Bell'],
  ]),
}
const said = (by: 'kind' | 'track' | 'place', folded: string[] = []) =>
  rowsOf(found, by, names, new Set(folded)).map((row) => ('head' in row ? `${row.called} ${row.some.length}` : row.one.of))

describe('rows of findings', () => {
  it('come by kind in the order of the kinds, by track in that of the tracks, by place in that of time', () => {
    expect(said('kind')).toEqual(['flat 1', 'L3', 'gaps 2', 'L1', 'L2', 'names that cannot be told apart 1', 'x'])
    expect(said('track')).toEqual(['Horn 1', 'L2', 'Bell 2', 'L1', 'L3', 'the session 1', 'x'])
    expect(said('place')).toEqual(['L3', 'L2', 'x', 'L1'])
  })
  it('are folded away under their head', () => {
    expect(said('kind', ['gap', 'flat'])).toEqual(['flat 1', 'gaps 2', 'names that cannot be told apart 1', 'x'])
  })
  it('are known by kind, whose they are and where', () => {
    expect(keyOf(found[0]!)).not.toBe(keyOf(found[1]!))
    expect(keyOf({ ...found[0]!, at: 1 })).not.toBe(keyOf(found[0]!))
  })
  it('say how sure they are in a word', () => {
    expect([1, 0.9, 0.89, 0.5, 0.49].map(sureness)).toEqual(['sure', 'sure', 'likely', 'likely', 'maybe'])
  })
})

describe('usual bounds', () => {
  it('are one for each unit of what glides', () => {
    const p = (kind: string, unit: string, low: number, high: number) => ({ kind, low, high, axis: { unit } })
    const all = [p('continuous', 'dB', -96, 12), p('continuous', '%', 0, 100), p('continuous', '%', 0, 1), p('switch', 'x', 0, 1)]
    expect(usualBounds(all)).toEqual({ dB: 0.1, '%': 0.5 })
    expect(usualBounds([p('continuous', 'octaves', 20, 20000), p('continuous', '', -100, 100)])).toEqual({ octaves: 0.01, '': 1 })
  })
})
