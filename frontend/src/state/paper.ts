// The paper: one canvas under all strips, on which each draws its part. A browser hands every canvas over
// at every frame, drawn on or not, so that one is many times quicker to pan than one a strip.
import { computed, inject, onBeforeUnmount, onMounted, provide, type InjectionKey, type Ref, watch } from 'vue'
import { papers } from './theme'
import { useBench } from './bench'
import { useSelection } from './selection'
import { prepared, readInks, type Box } from '../lib/drawing'
import { LEFT, RIGHT, xOf } from '../lib/geometry'

const SPARE = 160 // pixels of paper above and below what is scrolled into sight
const LEAST = 24 // when fewer are left, the paper moves

type Paint = (context: CanvasRenderingContext2D, box: Box) => void

interface Paper {
  strips: Map<string, Paint>
  soon: () => void
}

const PAPER: InjectionKey<Paper> = Symbol('paper')

/** Pixels of a strip's head, in which its words stand. */
export const HEAD = 18

/** Lays the paper into a scroller (which holds the canvas, placed from the top of what it scrolls). */
export function usePaper(canvas: Ref<HTMLCanvasElement | null>, scroller: Ref<HTMLElement | null>): void {
  const bench = useBench()
  const selection = useSelection()
  const strips = new Map<string, Paint>()
  let frame = 0
  let top = 0
  let sizes: ResizeObserver | null = null

  const tops = computed(() => {
    let next = 0
    return bench.strips.map((id) => {
      const strip = { id, top: next, height: bench.heightOf(id) }
      next += strip.height
      return strip
    })
  })
  const tall = computed(() => tops.value.reduce((sum, strip) => sum + strip.height, 0))

  /** The height of the paper; it moves along when it is scrolled nearly out of sight. */
  function placed(): number {
    const { scrollTop, clientHeight } = scroller.value!
    const height = Math.min(clientHeight + 2 * SPARE, tall.value)
    const low = scrollTop - top < Math.min(LEAST, scrollTop)
    const high = top + height < Math.min(scrollTop + clientHeight + LEAST, tall.value)
    if (low || high) top = Math.max(Math.min(scrollTop - SPARE, tall.value - height), 0)
    canvas.value!.style.top = `${top}px`
    canvas.value!.style.height = `${height}px`
    return height
  }

  function draw(): void {
    frame = 0
    if (!canvas.value || !scroller.value) return
    const height = placed()
    if (!height) return
    const box: Box = { view: bench.view, width: bench.plotWidth, height }
    const wide = box.width + LEFT + RIGHT
    canvas.value.style.width = `${wide}px`
    const c = prepared(canvas.value, wide, height, true)
    c.imageSmoothingEnabled = false
    c.fillStyle = readInks().sheet
    c.fillRect(0, 0, wide, height)
    for (const strip of tops.value) {
      if (strip.top > top + height || strip.top + strip.height < top) continue
      c.save()
      c.translate(0, strip.top - top)
      strips.get(strip.id)?.(c, { ...box, height: strip.height })
      c.restore()
    }
    drawEdges(c, box)
    drawCursor(c, box)
  }

  function x(beat: number): number | null {
    const at = xOf(beat, bench.view, bench.plotWidth)
    return at >= LEFT - 1 && at <= LEFT + bench.plotWidth + 1 ? at : null
  }

  /** Whether a place on the canvas lies in a strip's head, whose words nothing crosses. */
  function inHead(y: number): boolean {
    return tops.value.some((strip) => y + top >= strip.top - 2 && y + top < strip.top + HEAD)
  }
  /** The range's edges, dotted. */
  function drawEdges(c: CanvasRenderingContext2D, box: Box): void {
    c.fillStyle = readInks().ink
    for (const beat of selection.range ? [selection.range.start, selection.range.end] : []) {
      const at = x(beat)
      if (at !== null) for (let y = -(top % 5); y < box.height; y += 5) if (!inHead(y)) c.fillRect(at - 0.6, y, 1.2, 2)
    }
  }

  function drawCursor(c: CanvasRenderingContext2D, box: Box): void {
    const at = x(bench.cursor)
    c.fillStyle = readInks().ink
    if (at === null) return
    let y = 0
    for (const strip of [...tops.value, { top: top + box.height }]) {
      const head = Math.min(Math.max(strip.top - top, 0), box.height)
      if (head > y) c.fillRect(Math.round(at) - 0.5, y, 1.2, head - y)
      y = Math.max(strip.top - top + HEAD, y)
    }
  }

  function soon(): void {
    frame ||= requestAnimationFrame(draw)
  }
  /** Scrolling moves the paper itself; it is drawn on when it has to move on. */
  function scrolled(): void {
    const before = top
    placed()
    if (top !== before) soon()
  }

  watch([papers, () => bench.view, () => bench.plotWidth, () => selection.range, () => bench.cursor, tops], soon)
  onMounted(() => {
    sizes = new ResizeObserver(soon)
    sizes.observe(scroller.value!)
    scroller.value!.addEventListener('scroll', scrolled, { passive: true })
    soon()
  })
  onBeforeUnmount(() => {
    cancelAnimationFrame(frame)
    sizes?.disconnect()
  })
  provide(PAPER, { strips, soon })
}

/** Takes a strip's place on the paper; gives what asks for it to be drawn again. */
export function onPaper(strip: string, paint: Paint): () => void {
  const paper = inject(PAPER)!
  onMounted(() => {
    paper.strips.set(strip, paint)
    paper.soon()
  })
  onBeforeUnmount(() => {
    if (paper.strips.get(strip) === paint) paper.strips.delete(strip)
    paper.soon()
  })
  return paper.soon
}
