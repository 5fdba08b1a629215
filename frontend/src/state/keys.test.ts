// Keys: which action a press asks for, by the one table.
import { expect, test, vi } from 'vitest'
import { ACTIONS, KEYS, VERBS } from '../lib/table'
import { actionOf, letters, pressed } from './keys'

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
test('Alt is the browser’s, Shift with an arrow a key of its own, and other layouts’ letters go by their place', () => {
  const [later, cursor, next] = [vi.fn(), vi.fn(), vi.fn()]
  const actions = { later, 'cursor later': cursor, 'next lane': next }
  expect(pressed(press('ArrowRight', { altKey: true }), actions)).toBe(false)
  pressed(press('ArrowRight', { shiftKey: true }), actions)
  pressed(press('ArrowRight'), actions)
  expect([cursor.mock.calls.length, later.mock.calls.length]).toEqual([1, 1])
  pressed(press('ц', { code: 'KeyW' }), actions)
  expect(next).toHaveBeenCalledTimes(1)
  expect(pressed(press('z', { code: 'KeyW' }), actions)).toBe(false)
})
test('keys of one letter can be switched off; arrows and Space stay', () => {
  letters.value = false
  const play = vi.fn()
  expect(pressed(press('w'), { 'next lane': vi.fn() })).toBe(false)
  expect(pressed(press(' '), { play })).toBe(true)
  letters.value = true
})
test('no key stands for two actions that work everywhere, and every verb has one', () => {
  const onStrips = new Set(['next point', 'previous point', 'add point', 'remove points', 'straighten', 'hold'])
  const keys = Object.entries(ACTIONS).flatMap(([action, some]) => (onStrips.has(action) ? [] : [...some]))
  expect(new Set(keys).size).toBe(keys.length)
  for (const verb of VERBS) expect(ACTIONS[verb.id]).toEqual([verb.key])
  expect(KEYS.every((key) => key.written && key.says)).toBe(true)
})
