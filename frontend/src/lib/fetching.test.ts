// What is fetched around a window, and whether it still serves another one.
import { expect, test } from 'vitest'
import { columnsFor, detailOf, inPieces, serves, widened } from './fetching'

const view = { start: 100, end: 116 }
const had = widened(view)
const detail = detailOf(view, 800)

test('a window and a quarter is fetched on either side, in columns of two pixels', () => {
  expect(had).toEqual({ start: 80, end: 136 })
  expect(columnsFor(800)).toBe(1400)
  expect(columnsFor(10_000)).toBe(8192)
})
test('it serves while more than six tenths of a window are left on both sides', () => {
  expect(serves(had, detail, { start: 110, end: 126 }, 800)).toBe(true)
  expect(serves(had, detail, { start: 111, end: 127 }, 800)).toBe(false)
  expect(serves({ start: 0, end: 36 }, detail, { start: 0, end: 16 }, 800)).toBe(true)
})
test('it does not serve closer by two thirds, or from two and a half times as far', () => {
  expect(serves(had, detail, { start: 105, end: 115 }, 800)).toBe(false)
  expect(serves(had, detail, { start: 100, end: 111 }, 800)).toBe(true)
  expect(serves({ start: 0, end: 400 }, detail, { start: 80, end: 130 }, 800)).toBe(false)
})
test('a long list goes in pieces', () => {
  expect(inPieces([1, 2, 3, 4, 5], 2)).toEqual([[1, 2], [3, 4], [5]])
})
