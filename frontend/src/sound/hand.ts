// What a control under a hand is in the audio graph, until the core has answered: the same formulas as its own.
import type { ParameterOut } from '../api/types'

const SILENCE = -96

/** A level, a send or a mute as a factor, a pan as a place from −1 to 1. */
export function handOf(parameter: ParameterOut, value: number, adds = 0): number {
  if (parameter.family === 'mute') return value < parameter.high ? 1 : 0
  if (parameter.family === 'pan') {
    const middle = parameter.unit === 'cc' ? (parameter.high + 1) / 2 : (parameter.low + parameter.high) / 2
    return Math.min(Math.max((value - middle) / (parameter.high - middle), -1), 1)
  }
  if (parameter.unit === 'cc') return (Math.max(value, 0) / parameter.high) ** 2
  return value <= SILENCE || adds <= SILENCE ? 0 : 10 ** ((value + adds) / 20)
}
