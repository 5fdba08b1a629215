// What a session's bench looked like, kept in this browser for when it is opened again.
import type { View } from '../bench/geometry'
import type { Range } from './selection'

export interface Kept {
  view: View
  pins: string[]
  heights: Record<string, number>
  size: 'low' | 'middle' | 'tall'
  range: Range | null
  cursor: number
  grid: string
  chosen: string[]
  sets: { name: string; pins: string[] }[]
  shares: Record<string, string[]>
  heardOn: string[]
}

const keyOf = (id: number) => `velmot.bench.${id}`

/** What was kept of a session; null for nothing, or for what cannot be read. */
export function readKept(id: number): Partial<Kept> | null {
  try {
    return JSON.parse(localStorage.getItem(keyOf(id)) ?? 'null') as Partial<Kept> | null
  } catch {
    return null
  }
}

/** Keep it; a browser that is full or allows nothing to be kept forgets it. */
export function writeKept(id: number, kept: Kept): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(kept))
  } catch {
    /* the bench opens as a new one does */
  }
}
