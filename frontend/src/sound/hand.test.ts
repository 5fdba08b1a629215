import { expect, it } from 'vitest'
import type { ParameterOut } from '../api/types'
import { handOf } from './hand'

const parameter = (some: Partial<ParameterOut>) => ({ family: 'level', unit: 'dB', low: -96, high: 12, ...some }) as ParameterOut

it('a hand is heard as the core would have it', () => {
  expect(handOf(parameter({}), -6)).toBeCloseTo(0.50119)
  expect(handOf(parameter({}), -6, -6)).toBeCloseTo(0.25119) // with what its groups add
  expect(handOf(parameter({}), -96)).toBe(0)
  expect(handOf(parameter({}), 0, -96)).toBe(0) // under a silent group
  expect(handOf(parameter({ unit: 'cc', low: 0, high: 127 }), 64)).toBeCloseTo((64 / 127) ** 2)
  expect(handOf(parameter({ family: 'pan', unit: '', low: -100, high: 100 }), -50)).toBe(-0.5)
  expect(handOf(parameter({ family: 'pan', unit: 'cc', low: 0, high: 127 }), 127)).toBe(1)
  expect(handOf(parameter({ family: 'mute', unit: '', low: 0, high: 1 }), 1)).toBe(0)
  expect(handOf(parameter({ family: 'mute', unit: '', low: 0, high: 1 }), 0)).toBe(1)
})
