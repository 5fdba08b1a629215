// A strip's drawing kept as an opaque picture wider than the window, so that panning only slides it along.
import { prepared, type Box } from './drawing'
import { LEFT, RIGHT, type View } from './geometry'
import { AIR } from './line'

const MARGIN = 0.75 // of a window, on both sides
const SPARE = 0.35 // of a window, below which the picture is drawn further on

/** A stretch of time there are curves of: all that are drawn, or some; `grain` changes with their level of detail. */
export interface Known extends View {
  grain: number
  all: boolean
}
type Draw = (context: CanvasRenderingContext2D, box: Box) => void

const waiting = new Map<Film, () => void>()
let ticking = 0

/** Renew pictures one a frame, so that no frame pays for all strips at once. */
function later(film: Film, work: () => void): void {
  waiting.set(film, work)
  ticking ||= requestAnimationFrame(tick)
}
function tick(): void {
  ticking = 0
  const [film, work] = [...waiting][0] ?? []
  if (!film || !work) return
  waiting.delete(film)
  work()
  if (waiting.size) ticking = requestAnimationFrame(tick)
}

export class Film {
  private picture = document.createElement('canvas')
  private shown: Box | null = null
  private window: Box | null = null
  private known: Known | null = null
  private detail = 0
  private faded = false
  private complete = false

  /** What it shows has changed: it is drawn anew before it is shown again. */
  spoil(): void {
    this.shown = null
    waiting.delete(this)
  }

  /** More is known now: what it shows stays until there is time. What was drawn from all there was can stay for good. */
  fade(): void {
    this.faded ||= !this.complete
  }

  /** It is to be drawn otherwise, but that is not urgent. */
  age(): void {
    this.faded = true
  }

  /**
   * Copy the part in the window onto a context; draws anew what the picture does not hold. `known`
   * is null where no curve is drawn; `soon` asks to be shown again.
   */
  show(context: CanvasRenderingContext2D, box: Box, known: Known | null, draw: Draw, soon: () => void): void {
    const detail = box.width / (box.view.end - box.view.start)
    const sliding = Math.abs(detail - this.detail) < detail * 1e-9
    const finer = !alike(this.known, known)
    this.window = box
    this.known = known
    this.detail = detail
    if (!this.shown || !sliding || !holds(this.shown.view, box.view)) this.take(sliding, draw)
    else if (this.faded || finer || this.canReachFurther(box))
      later(this, () => {
        this.take(true, draw)
        soon()
      })
    this.copy(context, box)
  }

  private copy(context: CanvasRenderingContext2D, box: Box): void {
    const ratio = window.devicePixelRatio || 1
    const left = LEFT - AIR + Math.round((box.view.start - this.shown!.view.start) * this.detail)
    const width = box.width + 2 * AIR
    context.drawImage(this.picture, left * ratio, 0, width * ratio, this.picture.height, LEFT - AIR, 0, width, box.height)
  }

  /** Whether the window comes near an end of the picture, and there is more to be drawn on that side. */
  private canReachFurther(box: Box): boolean {
    const had = this.shown!.view
    const now = this.reach(box, true)
    const spare = (box.view.end - box.view.start) * SPARE
    const least = spare / 2 // less is not worth a drawing
    return (box.view.start - had.start < spare && had.start - now.start > least) || (had.end - box.view.end < spare && now.end - had.end > least)
  }

  /** What a picture would show: while zooming only the window; sliding, what is known of what lies beside it too. */
  private reach({ view }: Box, sliding: boolean): View {
    const more = sliding ? (view.end - view.start) * MARGIN : 0
    return {
      start: Math.max(view.start - more, Math.min(this.known?.start ?? 0, view.start), 0),
      end: Math.min(view.end + more, Math.max(this.known?.end ?? Infinity, view.end)),
    }
  }

  private take(sliding: boolean, draw: Draw): void {
    const box = this.window!
    waiting.delete(this)
    const { start, end } = this.reach(box, sliding)
    const width = Math.ceil((end - start) * this.detail - 1e-6)
    const wide = { view: { start, end: start + width / this.detail }, width, height: box.height }
    draw(prepared(this.picture, width + LEFT + RIGHT, box.height, true), wide)
    this.shown = wide
    this.faded = false
    this.complete = !this.known || (this.known.all && this.known.start <= start + 1e-9 && this.known.end >= end - 1e-9)
  }
}

function holds(had: View, now: View): boolean {
  return had.start <= now.start + 1e-9 && had.end >= now.end - 1e-9
}

function alike(one: Known | null, other: Known | null): boolean {
  return one === other || (!!one && !!other && Math.abs(one.grain - other.grain) < one.grain * 1e-6)
}
