// The window of time that is on view, and how it is moved.
import { ref, shallowRef, type ComputedRef } from 'vue'
import { clampView, type View } from '../../lib/geometry'
import type { Range } from '../selection'

export function makeWindow(length: ComputedRef<number>) {
  const view = shallowRef<View>({ start: 0, end: 64 })
  const plotWidth = ref(900)

  function show(next: View): void {
    view.value = clampView(next, length.value)
  }
  /** A span with some air on both sides. */
  function showAround({ start, end }: Range): void {
    const air = (end - start) * 0.2
    show({ start: start - air, end: end + air })
  }
  function pan(beats: number): void {
    show({ start: view.value.start + beats, end: view.value.end + beats })
  }
  /** Zoom by a factor about a beat, which stays where it is on screen. */
  function zoom(factor: number, about: number): void {
    const { start, end } = view.value
    show({ start: about - (about - start) * factor, end: about + (end - about) * factor })
  }
  /** Have a span on view: as it is where it is seen already, else in the middle, with air. */
  function reach(span: Range): void {
    const { start, end } = view.value
    if (span.start >= start && span.end <= end) return
    const width = Math.max(end - start, (span.end - span.start) * 1.25)
    const middle = (span.start + span.end) / 2
    show({ start: middle - width / 2, end: middle + width / 2 })
  }

  return { view, plotWidth, show, showAround, pan, zoom, reach }
}
