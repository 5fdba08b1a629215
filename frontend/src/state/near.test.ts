import { expect, test } from 'vitest'
import { inPieces } from '../lib/fetching'
import { stripsNear } from './near'

const ids = Array.from({ length: 2000 }, (_, i) => `p${i}`)

test('of 2,000 strips only those in sight and a window on either side are near', () => {
  // Strips of 100 in a window of 500, scrolled to 50,000: 500 to 505 are in sight, five more above and below.
  expect(stripsNear(ids, () => 100, 50_000, 500)).toEqual({ strips: ids.slice(495, 510), above: 49_500, below: 149_000 })
  expect(stripsNear(ids, () => 100, 0, 500)).toEqual({ strips: ids.slice(0, 10), above: 0, below: 199_000 })
  expect(stripsNear([], () => 100, 0, 500)).toEqual({ strips: [], above: 0, below: 0 })
})

test('heights of their own count', () => {
  const heights: Record<string, number> = { p0: 1000, p1: 50 }
  expect(stripsNear(ids.slice(0, 4), (id) => heights[id] ?? 100, 1100, 100)).toEqual({
    strips: ['p1', 'p2', 'p3'],
    above: 1000,
    below: 0,
  })
})

test('a long list goes in pieces, and all of it goes', () => {
  expect(inPieces([1, 2, 3, 4, 5], 2)).toEqual([[1, 2], [3, 4], [5]])
  expect(inPieces([])).toEqual([])
  expect(inPieces(ids).flat()).toEqual(ids)
})
