// How far a thinned line may be from what it was, where nobody said another: a bound for each unit.
export interface Gliding {
  kind: string
  low: number
  high: number
  axis: { unit: string }
}
const USUAL: Record<string, number> = { dB: 0.1, octaves: 0.01 }

/** The usual bounds of the units of what glides: of other units a two-hundredth of the first parameter's range. */
export function usualBounds(parameters: Gliding[]): Record<string, number> {
  const all: Record<string, number> = {}
  for (const p of parameters) {
    if (p.kind === 'continuous') all[p.axis.unit] ??= USUAL[p.axis.unit] ?? +((p.high - p.low) / 200).toPrecision(6)
  }
  return all
}
