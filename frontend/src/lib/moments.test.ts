import { expect, test } from 'vitest'
import { momentNow, momentText } from './moments'

const now = new Date(2026, 11, 1, 14, 2, 9) // a Tuesday

test('the local time is said to the second, with every digit', () => {
  expect(momentNow(now)).toBe('2026-12-01T14:02:09')
})

test('a moment is said from today: its time, its day within a week, or its date', () => {
  expect(momentText('2026-12-01T09:05:00', now)).toBe('today 09:05')
  expect(momentText('2026-11-30T23:59:00', now)).toBe('Mon 23:59')
  expect(momentText('2026-11-25T00:00:00', now)).toBe('Wed 00:00')
  expect(momentText('2026-11-24T10:31:00', now)).toBe('2026-11-24 10:31')
  expect(momentText('2026-12-02T10:31:00', now)).toBe('2026-12-02 10:31')
  expect(momentText('', now)).toBe('')
  expect(momentText('last week', now)).toBe('')
})
