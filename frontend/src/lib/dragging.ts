// Following a pointer from press to release, wherever it goes: one way for flags, ribbons, grips, graphs and strips.
// It has one end: let go, or given up (Escape, a cancelled pointer, its element gone, whoever began it).

export interface Drag {
  move: (event: PointerEvent) => void
  /** Let go; `dragged` says whether it ever moved far enough. */
  drop?: (dragged: boolean, last: PointerEvent) => void
  /** Given up: what was shown goes back to how it was. */
  giveUp?: (dragged: boolean) => void
  /** Pixels before a press becomes a drag. */
  from?: number
}

/** Pointers that are being followed, each with the way to give it up. */
const followed = new Set<() => void>()

/** Give up all that is in hand; false if nothing is. */
function giveUpAll(): boolean {
  const any = followed.size > 0
  for (const giveUp of [...followed]) giveUp()
  return any
}
// Before anything else hears of it: while a hand is at work Escape is the hand's.
window.addEventListener(
  'keydown',
  (event) => {
    if (event.key !== 'Escape' || !giveUpAll()) return
    event.preventDefault()
    event.stopImmediatePropagation()
  },
  { capture: true },
)

/** Follow the pointer that an element was pressed with; other buttons than the first are nobody's. Returns how to give it up. */
export function follow(
  event: PointerEvent,
  { move, drop, giveUp, from = 0 }: Drag,
  element = event.currentTarget as Element,
): () => void {
  if (event.button !== 0) return () => undefined
  const { pointerId } = event
  element.setPointerCapture(pointerId)
  let dragged = from === 0
  const moved = (next: Event) => {
    const at = next as PointerEvent
    if (at.pointerId !== pointerId) return
    dragged ||= Math.hypot(at.clientX - event.clientX, at.clientY - event.clientY) >= from
    if (dragged) move(at)
  }
  const released = (last: Event) => {
    if ((last as PointerEvent).pointerId !== pointerId || !end()) return
    drop?.(dragged, last as PointerEvent)
  }
  const cancelled = (last: Event) => (last as PointerEvent).pointerId === pointerId && stop()
  const stop = () => {
    if (end()) giveUp?.(dragged)
  }
  const gone = new MutationObserver(() => !element.isConnected && stop())
  function end(): boolean {
    if (!followed.delete(stop)) return false
    gone.disconnect()
    element.removeEventListener('pointermove', moved)
    element.removeEventListener('pointerup', released)
    element.removeEventListener('pointercancel', cancelled)
    if (element.isConnected && element.hasPointerCapture(pointerId)) element.releasePointerCapture(pointerId)
    return true
  }
  followed.add(stop)
  gone.observe(document.body, { childList: true, subtree: true })
  element.addEventListener('pointermove', moved)
  element.addEventListener('pointerup', released)
  element.addEventListener('pointercancel', cancelled)
  return stop
}
