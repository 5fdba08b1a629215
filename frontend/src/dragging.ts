// Following a pointer from press to release, wherever it goes: one way for flags, ribbons, grips, graphs and strips.

export interface Drag {
  move: (event: PointerEvent) => void
  /** Once, at the end; `dragged` says whether it ever moved far enough. */
  drop?: (dragged: boolean, last: PointerEvent) => void
  /** Pixels before a press becomes a drag. */
  from?: number
}

/** Follow the pointer that an element was pressed with; other buttons than the first are nobody's. */
export function follow(event: PointerEvent, { move, drop, from = 0 }: Drag, element = event.currentTarget as Element): void {
  if (event.button !== 0) return
  element.setPointerCapture(event.pointerId)
  let dragged = from === 0
  const moved = (next: Event) => {
    const at = next as PointerEvent
    dragged ||= Math.hypot(at.clientX - event.clientX, at.clientY - event.clientY) >= from
    if (dragged) move(at)
  }
  const over = (last: Event) => {
    element.removeEventListener('pointermove', moved)
    element.removeEventListener('pointerup', over)
    element.removeEventListener('pointercancel', over)
    drop?.(dragged, last as PointerEvent)
  }
  element.addEventListener('pointermove', moved)
  element.addEventListener('pointerup', over)
  element.addEventListener('pointercancel', over)
}
