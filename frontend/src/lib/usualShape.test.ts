import { describe, expect, it } from 'vitest'
import type { ParameterOut } from '../api/types'
import { placing, unitOf, usualDepth } from './usualShape'

const parameter = (family: string, unit: string) => ({ family, unit }) as ParameterOut

describe('how deep something usually lies', () => {
  it('keeps its numbers where they mean the same', () => {
    expect(usualDepth(parameter('level', 'dB'), 'dB')).toEqual({ deep: 'unit', depth: 100 })
    expect(usualDepth(parameter('pan', ''), '')).toEqual({ deep: 'unit', depth: 100 })
  })
  it('is a little about the value of a level, and the whole range elsewhere', () => {
    expect(usualDepth(parameter('send', 'dB'), null)).toEqual({ deep: 'static', depth: 20 })
    expect(usualDepth(parameter('device', 'Hz'), 'dB')).toEqual({ deep: 'range', depth: 100 })
  })
  it('takes what is drawn for any depth to have no numbers of its own', () => {
    expect(unitOf({ unit: '', low: 0, high: 1 })).toBeNull()
    expect(unitOf({ unit: '', low: -40, high: 40 })).toBe('')
    expect(unitOf({ unit: 'dB', low: 0, high: 1 })).toBe('dB')
    expect(unitOf({ unit: 'dB', low: -9, high: 1, shape: {} })).toBeNull()
  })
})

it('a placing is once and linked, but for what is asked', () => {
  const wanted = placing({ targets: [], start: 4, phrase: 'p', times: 3 })
  expect(wanted).toMatchObject({ verb: 'place', start: 4, phrase: 'p', given: null, times: 3, linked: true, edges: 'seal' })
})
