// Keys: which action a press asks for, by the one table.
import { expect, test, vi } from 'vitest'
import { ACTIONS, KEYS, VERBS } from './api/table'
import { actionOf, pressed } from './keys'

const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
  ({ key, preventDefault: vi.fn(), ...more }) as unknown as KeyboardEvent

test('a key asks for the action that the table gives it, upper and lower case apart', () => {
  const [next, previous] = [vi.fn(), vi.fn()]
  const actions = { 'next lane': next, 'previous lane': previous }
  expect(pressed(press('w'), actions)).toBe(true)
  expect(pressed(press('W'), actions)).toBe(true)
  expect([next.mock.calls.length, previous.mock.calls.length]).toEqual([1, 1])
})
test('other keys, and keys with Ctrl, are left to the browser', () => {
  const event = press('w', { ctrlKey: true })
  expect(pressed(event, { 'next lane': vi.fn() })).toBe(false)
  expect(event.preventDefault).not.toHaveBeenCalled()
  expect(actionOf(press('j'), { 'next lane': vi.fn() })).toBeUndefined()
})
test('no key stands for two actions that work everywhere, and every verb has one', () => {
  const onStrips = new Set(['next point', 'previous point', 'add point', 'remove points', 'straighten', 'hold'])
  const keys = Object.entries(ACTIONS).flatMap(([action, some]) => (onStrips.has(action) ? [] : [...some]))
  expect(new Set(keys).size).toBe(keys.length)
  for (const verb of VERBS) expect(ACTIONS[verb.id]).toEqual([verb.key])
  expect(KEYS.every((key) => key.written && key.says)).toBe(true)
})
