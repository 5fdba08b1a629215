// How much is fetched around the window of time, and whether what was fetched still serves another window.
import type { View } from './geometry'

/** Columns a beat that the screen can show now. */
export function detailOf(view: View, width: number): number {
  return width / (view.end - view.start)
}

/** Windows that are fetched on both sides of the one on view, so that there is something to pan into. */
const BESIDE = 1.25
const SMALLEST_SPARE = 0.6 // windows left beside the one on view, below which more is fetched

/** The window and what is fetched beside it; a preview, asked for at every move of a drag, fetches less. */
export function widened(view: View, beside = BESIDE): View {
  const more = (view.end - view.start) * beside
  return { start: view.start - more, end: view.end + more }
}

/** One column for every two pixels of the widened window. */
export function columnsFor(width: number, beside = BESIDE): number {
  return Math.min(Math.round((width * (1 + 2 * beside)) / 2), 8192)
}

/** Whether what was fetched for a window still serves another: near enough in place and in detail. */
export function serves(had: View, detail: number, now: View, width: number, least = SMALLEST_SPARE): boolean {
  const spare = (now.end - now.start) * least
  const covered = had.start <= Math.max(now.start - spare, 0) && had.end >= now.end + spare
  return covered && detailOf(now, width) < detail * 1.6 && detailOf(now, width) > detail / 2.5
}

/** A list in pieces of at most `most`: what one request may ask for. */
export function inPieces<T>(list: T[], most = 400): T[][] {
  return Array.from({ length: Math.ceil(list.length / most) }, (_, i) => list.slice(i * most, (i + 1) * most))
}
