// The line of hints: what a hand can do where the pointer is.
const HINTS: readonly (readonly [where: string, says: string])[] = [
  ['.plot.on-rail', 'Pull the rail: all of it moves. With Alt finer.'],
  [
    '.plot',
    'Drag: a range. A point: click, drag, double click adds one. Between two: drag to bend. Shift and drag: pick points.',
  ],
  [
    '.ruler',
    'Click: time goes there. Drag a flag or a marker. Double click between two markers: the range from one to the next.',
  ],
  ['.overview', 'Drag: the bars on view.'],
  ['.ledger', 'A lane: click puts its strip on the bench. A track: its channel card. / finds, Enter goes there.'],
  ['.sentence', 'Each underlined part can be changed here. q opens the whole sheet.'],
  ['.worksheet', 'A name says what it is for when the pointer rests on it. Ctrl Enter applies.'],
]
const ANYWHERE = 'j goes to anything by its name. ? lists every key.'

/** What is said of the place an element belongs to. */
export function hintAt(element: Element | null): string {
  return HINTS.find(([where]) => element?.closest(where))?.[1] ?? ANYWHERE
}
