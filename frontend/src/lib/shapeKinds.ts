// The kinds of shapes, as they are offered.
import type { ShapeKind } from '../api/types'

export const KINDS: ShapeKind[] = [
  ...(['sine', 'triangle', 'saw up', 'saw down', 'square', 'straight', 'exponential', 'logarithmic', 's'] as const),
  ...(['steps of chance', 'glides of chance'] as const),
]
