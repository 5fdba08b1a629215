// A hint is of the nearest place that has one, and there is always one.
import { expect, test } from 'vitest'
import { hintAt } from './hints'

/** An element that lies in places of these selectors. */
const inside = (...places: string[]) =>
  ({ closest: (where: string) => (places.includes(where) ? {} : null) }) as unknown as Element

test('what is said is of the place, the more particular first', () => {
  expect(hintAt(inside('.plot'))).toContain('Drag: a range.')
  expect(hintAt(inside('.plot', '.plot.on-rail'))).toContain('Pull the rail')
  expect(hintAt(inside('.worksheet', '.sentence'))).toContain('underlined part')
  expect(hintAt(inside('.ledger'))).toContain('puts its strip on the bench')
})

test('elsewhere it says how to get anywhere', () => {
  expect(hintAt(inside())).toBe(hintAt(null))
  expect(hintAt(null)).toContain('? lists every key')
})
