// A field's choices and its name come from the request's own table.
import { expect, test } from 'vitest'
import { calledOf, choicesOf } from './fields'

test('choices are those of the request, in its words', () => {
  expect(choicesOf('clear/way')).toEqual([
    { value: 'seal', words: 'seal: outside stays' },
    { value: 'bridge', words: 'bridge: neighbours join' },
  ])
  expect(calledOf('clear/way')).toBe('Inside the range')
})

test('a switch is chosen by yes and no', () => {
  expect(choicesOf('keep phrase/place')).toEqual([
    { value: true, words: 'its first place, linked' },
    { value: false, words: 'the lane is left alone' },
  ])
})
