// A strip's drawing kept as a picture wider than the window, so that panning only slides it along.
import { prepared, type Box } from './drawing'
import { LEFT, RIGHT, type View } from './geometry'

const MARGIN = 0.6 // of a window, on both sides
const A_FRAME = 2 // pictures renewed ahead of need in one frame

type Draw = (context: CanvasRenderingContext2D, box: Box) => void

const waiting = new Set<() => void>()
let ticking = 0

/** Renew pictures a few at a time, so that no frame pays for all strips at once. */
function later(work: () => void): void {
  waiting.add(work)
  if (!ticking) ticking = requestAnimationFrame(tick)
}
function tick(): void {
  ticking = 0
  for (const work of [...waiting].slice(0, A_FRAME)) {
    waiting.delete(work)
    work()
  }
  if (waiting.size) ticking = requestAnimationFrame(tick)
}

export class Film {
  private picture = document.createElement('canvas')
  private shown: Box | null = null
  private detail = 0
  private renew = () => {}

  /** Forget the picture: what it shows has changed. */
  spoil(): void {
    this.shown = null
    waiting.delete(this.renew)
  }

  /** Copy the part in the window onto a context; draws anew what the picture does not hold. */
  show(context: CanvasRenderingContext2D, box: Box, draw: Draw): void {
    const detail = box.width / (box.view.end - box.view.start)
    const sliding = Math.abs(detail - this.detail) < detail * 1e-9
    if (!this.shown || !sliding || !holds(this.shown.view, box.view)) this.take(box, sliding, draw)
    else if (!holds(this.shown.view, box.view, 0.2)) {
      waiting.delete(this.renew)
      this.renew = () => this.take(box, true, draw)
      later(this.renew)
    }
    this.detail = detail
    const shift = Math.round((box.view.start - this.shown!.view.start) * detail)
    context.save()
    context.beginPath()
    context.rect(LEFT - 6, 0, box.width + 12, box.height)
    context.clip()
    const ratio = window.devicePixelRatio || 1
    context.drawImage(this.picture, -shift, 0, this.picture.width / ratio, this.picture.height / ratio)
    context.restore()
  }

  /** While zooming only the window is drawn; sliding, some of what lies beside it too. */
  private take(box: Box, sliding: boolean, draw: Draw): void {
    const more = sliding ? (box.view.end - box.view.start) * MARGIN : 0
    const start = Math.max(box.view.start - more, 0)
    const end = box.view.end + more
    const width = ((end - start) / (box.view.end - box.view.start)) * box.width
    const wide = { view: { start, end }, width, height: box.height }
    draw(prepared(this.picture, width + LEFT + RIGHT, box.height), wide)
    this.shown = wide
  }
}

function holds(had: View, now: View, spare = 0): boolean {
  const more = (now.end - now.start) * spare
  return had.start <= Math.max(now.start - more, 0) + 1e-9 && had.end >= now.end + more - 1e-9
}
