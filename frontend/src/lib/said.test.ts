// What the page writes of values, distances and places is what the core writes.
import { expect, test } from 'vitest'
import type { ParameterOut, SessionOut } from '../api/types'
import { clockText, distanceText, positionText, valueText } from './said'
import said from './said.json'

test.each(said.parameters)('values and distances of $parameter.name', ({ parameter, values, distances }) => {
  const p = parameter as ParameterOut
  for (const [value, text] of values) expect([value, valueText(p, value as number)]).toEqual([value, text])
  for (const [far, text] of distances) expect([far, distanceText(p, far as number)]).toEqual([far, text])
})
test('places to the tick', () => {
  const bars = said.bars as SessionOut['bars']
  for (const [beat, text] of said.places) expect([beat, positionText(beat as number, bars)]).toEqual([beat, text])
})
test('a minute is never sixty seconds', () => {
  const clock = [
    { beat: 0, seconds: 0 },
    { beat: 120, seconds: 60 },
  ]
  expect([0, 119.9999, 120].map((beat) => clockText(beat, clock))).toEqual(['0:00.000', '1:00.000', '1:00.000'])
})
