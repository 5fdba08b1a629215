// Findings in a list: what each is known by, how sure it is in words, and the rows they are listed in.
export interface Known {
  kind: string
  of: string
  at: number
}

export const keyOf = ({ kind, of, at }: Known): string => `${kind}\n${of}\n${at}`

/** How sure a finding is, in a word. */
export function sureness(sure: number): string {
  if (sure >= 0.9) return 'sure'
  return sure >= 0.5 ? 'likely' : 'maybe'
}

/** What a list is parted by, in the words of its choices. */
export type Grouping = 'kind' | 'track' | 'place'

export interface Listed extends Known {
  track: string
  start: number
  let_be: boolean
}
export type Row<F> = { head: string; called: string; some: F[] } | { one: F }

/**
 * The rows of a list: for each group a head with what is in it, and below what it holds, where it is not folded.
 * By place there is one group, in the order of time.
 */
export function rowsOf<F extends Listed>(
  found: F[],
  by: Grouping,
  names: { kinds: Map<string, string>; tracks: Map<string, string> },
  folded: ReadonlySet<string>,
): Row<F>[] {
  if (by === 'place') return [...found].sort((a, b) => a.start - b.start).map((one) => ({ one }))
  const called = by === 'kind' ? names.kinds : names.tracks
  const groups = new Map<string, F[]>()
  for (const one of found) {
    const key = by === 'kind' ? one.kind : one.track
    groups.set(key, [...(groups.get(key) ?? []), one])
  }
  const order = [...called.keys(), ''].filter((key) => groups.has(key))
  return order.flatMap((head): Row<F>[] => {
    const some = groups.get(head)!
    const rows = folded.has(head) ? [] : some.map((one) => ({ one }))
    return [{ head, called: called.get(head) ?? 'the session', some }, ...rows]
  })
}
