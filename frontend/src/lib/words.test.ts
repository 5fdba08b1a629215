import { expect, test } from 'vitest'
import { isolated } from './words'

test('names from right to left are isolated as wholes, and nothing else is touched', () => {
  expect(isolated('Carry פעמון הים to 5.1.00')).toBe('Carry \u2068פעמון הים\u2069 to 5.1.00')
  expect(isolated('جرس, then 3 dB on קול')).toBe('\u2068جرس\u2069, then 3 dB on \u2068קול\u2069')
  expect(isolated('Carry Bell buoy Level to 5.1.00')).toBe('Carry Bell buoy Level to 5.1.00')
})
