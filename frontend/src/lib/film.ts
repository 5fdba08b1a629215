// A strip's drawing kept as an opaque picture wider than the window, so that panning only slides it along.
import { prepared, type Box } from './drawing'
import { LEFT, RIGHT, type View } from './geometry'
import { AIR } from './line'

const MARGIN = 0.75 // of a window, on both sides
const SPARE = 0.5 // of a window, below which the picture is drawn further on
const SLICES = 4 // in which a picture is renewed
const SHARE = 2 // milliseconds of a frame that go into slices; one is drawn in any case
const OVER = 10 // pixels that lines, handles and their joins may reach over a slice's edge

/** A stretch of time there are curves of: all that are drawn, or some; `grain` changes with their level of detail. */
export interface Known extends View {
  grain: number
  all: boolean
}
type Draw = (context: CanvasRenderingContext2D, box: Box) => void

/** Work that is done a part at a time; true when all of it is. */
type Work = () => boolean

const waiting = new Map<Film, Work>()
let ticking = 0
/** What the picture at work is drawn on; it changes places with the one it replaces. */
let spare = document.createElement('canvas')

/** Renew pictures one after the other, slice by slice, so that no frame pays for much. */
function later(film: Film, work: Work): void {
  waiting.set(film, work)
  ticking ||= requestAnimationFrame(tick)
}
function tick(): void {
  ticking = 0
  const until = performance.now() + SHARE
  do {
    const [film, work] = [...waiting][0] ?? []
    if (!film || !work) return
    if (work()) waiting.delete(film)
  } while (performance.now() < until)
  if (waiting.size) ticking = requestAnimationFrame(tick)
}

export class Film {
  private picture = document.createElement('canvas')
  private shown: Box | null = null
  private window: Box | null = null
  private known: Known | null = null
  private detail = 0
  private stale = false
  private complete = false
  /** The picture at work, and how many slices of it are drawn. */
  private coming: { wide: Box; known: Known | null; slices: number } | null = null

  /** What it shows has changed: it is drawn anew before it is shown again. */
  invalidate(): void {
    this.shown = null
    this.stop()
  }

  private stop(): void {
    this.coming = null
    waiting.delete(this)
  }

  /** More is known now: what it shows stays until there is time. What was drawn from all there was can stay for good. */
  refine(): void {
    this.stale ||= !this.complete
  }

  /** It is to be drawn otherwise, but that is not urgent. */
  restyle(): void {
    this.stale = true
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
    this.stale ||= finer
    this.known = known
    this.detail = detail
    if (!this.shown || !sliding || !holds(this.shown.view, box.view)) this.take(sliding, draw)
    else if (this.stale || this.canReachFurther(box))
      later(this, () => {
        const whole = this.renew(draw)
        if (whole) soon()
        return whole
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
    return (
      (box.view.start - had.start < spare && had.start - now.start > least) ||
      (had.end - box.view.end < spare && now.end - had.end > least)
    )
  }

  /** What a picture would show: while zooming only the window; sliding, what is known of what lies beside it too. */
  private reach({ view }: Box, sliding: boolean): View {
    const more = sliding ? (view.end - view.start) * MARGIN : 0
    return {
      start: Math.max(view.start - more, Math.min(this.known?.start ?? 0, view.start), 0),
      end: Math.min(view.end + more, Math.max(this.known?.end ?? Infinity, view.end)),
    }
  }

  /** The box a picture would fill. */
  private wide(sliding: boolean): Box {
    const box = this.window!
    const { start, end } = this.reach(box, sliding)
    const width = Math.ceil((end - start) * this.detail - 1e-6)
    return { view: { start, end: start + width / this.detail }, width, height: box.height }
  }

  /** Draw all of it now. */
  private take(sliding: boolean, draw: Draw): void {
    this.stop()
    const wide = this.wide(sliding)
    draw(prepared(this.picture, wide.width + LEFT + RIGHT, wide.height, true), wide)
    this.stale = false
    this.keep(wide, this.known)
  }

  /** Draw one slice more of the picture at work, and show it if it was the last. */
  private renew(draw: Draw): boolean {
    if (!this.coming) {
      this.coming = { wide: this.wide(true), known: this.known, slices: 0 }
      this.stale = this.complete = false // what comes in from now on makes it stale again
    }
    const { wide, known } = this.coming
    const width = wide.width + LEFT + RIGHT
    const edge = (n: number) => Math.round((width * n) / SLICES)
    const [from, to] = [edge(this.coming.slices), edge(++this.coming.slices)]
    const c = prepared(spare, width, wide.height, true)
    c.save()
    c.beginPath()
    c.rect(from, 0, to - from, wide.height)
    c.clip()
    draw(c, { ...wide, only: [Math.max(from - OVER, LEFT - AIR), Math.min(to + OVER, LEFT + wide.width + AIR)] })
    c.restore()
    if (this.coming.slices < SLICES) return false
    this.coming = null
    ;[this.picture, spare] = [spare, this.picture]
    this.keep(wide, known)
    return true
  }

  private keep(wide: Box, known: Known | null): void {
    const { start, end } = wide.view
    this.shown = wide
    this.complete = !known || (known.all && known.start <= start + 1e-9 && known.end >= end - 1e-9)
  }
}

function holds(had: View, now: View): boolean {
  return had.start <= now.start + 1e-9 && had.end >= now.end - 1e-9
}

function alike(one: Known | null, other: Known | null): boolean {
  return one === other || (!!one && !!other && Math.abs(one.grain - other.grain) < one.grain * 1e-6)
}
