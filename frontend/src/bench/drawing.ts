// Draws one strip's chart, curves and regions on a canvas. Pure drawing: it is told everything.
import type { Curve, RegionOut, SessionOut } from '../api/client'
import { bend, LEFT, RIGHT, toAxis, xOf, yOf, yOfAxis, type Scale, type View } from './geometry'

export interface Inks {
  line: string
  quiet: string
  soft: string
  ink: string
  sheet: string
  sand: string
  fresh: string
  pencil: string
  bracket: string
  heard: string
  family: Record<string, string>
}

let inks: Inks | null = null

/** The inks of the style sheet, read once: asking the page for styles at every frame is slow. */
export function readInks(): Inks {
  inks ??= inksOfPage()
  return inks
}

function inksOfPage(): Inks {
  const style = getComputedStyle(document.documentElement)
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim()
  const families = ['level', 'pan', 'send', 'device', 'switch', 'stepped', 'mute']
  return {
    line: of('line'),
    quiet: of('quiet-line'),
    soft: of('soft'),
    ink: of('ink'),
    sheet: of('sheet'),
    sand: of('sand'),
    fresh: of('fresh'),
    pencil: of('pencil'),
    bracket: '#b7a888',
    heard: '#d9cfb4',
    family: Object.fromEntries(families.map((f) => [f, of(f)])),
  }
}

export interface Pen {
  color: string
  width: number
  dash: number[]
  points: 'dots' | 'diamonds' | 'none'
  faint?: boolean
  filled?: (beat: number, index: number) => boolean
}

export interface Box {
  view: View
  width: number
  height: number
}

type Context = CanvasRenderingContext2D

/** Size a canvas to its box and the screen's pixels; gives its cleared context. */
export function prepared(canvas: HTMLCanvasElement, width: number, height: number): Context {
  const ratio = window.devicePixelRatio || 1
  if (canvas.width !== Math.round(width * ratio) || canvas.height !== Math.round(height * ratio)) {
    canvas.width = Math.round(width * ratio)
    canvas.height = Math.round(height * ratio)
  }
  const context = canvas.getContext('2d')!
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, width, height)
  return context
}

/** Bar lines, beat lines where there is room, and a line at each mark. */
export function drawChart(c: Context, box: Box, scale: Scale, bars: SessionOut['bars'], inks: Inks): void {
  const { view, width } = box
  c.lineWidth = 1
  const perBeat = width / (view.end - view.start)
  for (const bar of bars) {
    const barBeats = (bar.count * 4) / bar.unit
    if (bar.beat > view.end || bar.beat + barBeats < view.start || perBeat * barBeats < 7) continue
    vertical(c, xOf(bar.beat, view, width), scale, inks.line, box)
    if (perBeat * (4 / bar.unit) >= 14)
      for (let i = 1; i < bar.count; i++)
        vertical(c, xOf(bar.beat + (i * 4) / bar.unit, view, width), scale, inks.quiet, box)
  }
  drawMarks(c, box, scale, inks)
}

function vertical(c: Context, x: number, scale: Scale, color: string, box: Box): void {
  if (x < LEFT || x > LEFT + box.width) return
  c.fillStyle = color
  c.fillRect(Math.round(x), scale.top, 1, scale.bottom - scale.top)
}

function drawMarks(c: Context, box: Box, scale: Scale, inks: Inks): void {
  c.fillStyle = inks.quiet
  for (const { y } of marksOf(scale)) c.fillRect(LEFT, Math.round(y), box.width, 1)
}

/** The texts of the marks, right of the chart. */
export function drawMarkTexts(c: Context, box: Box, scale: Scale, inks: Inks): void {
  c.font = `11px 'Atkinson Hyperlegible Mono Variable', monospace`
  c.textBaseline = 'middle'
  c.fillStyle = inks.soft
  for (const { y, text } of marksOf(scale)) c.fillText(clipped(c, text, RIGHT - 8), LEFT + box.width + 7, y)
}

/** The marks in view that do not crowd each other, from the lowest up. */
function marksOf(scale: Scale): { y: number; text: string }[] {
  const out: { y: number; text: string }[] = []
  for (const mark of scale.parameter.marks) {
    const y = yOf(scale, mark.value)
    const last = out[out.length - 1]
    if (y < scale.top - 1 || y > scale.bottom + 1 || (last && last.y - y < 15)) continue
    out.push({ y, text: mark.text })
  }
  return out
}

const clips = new Map<string, string>()

/** A text short enough for a width; remembered, as measuring text is slow and the same is asked at every drawing. */
function clipped(c: Context, text: string, width: number): string {
  const room = Math.floor(width)
  const key = `${c.font} ${room} ${text}`
  let short = clips.get(key)
  if (short === undefined) {
    short = text
    if (c.measureText(text).width > room) {
      let [low, high] = [0, text.length]
      while (low < high) {
        const middle = (low + high + 1) >> 1
        if (c.measureText(`${text.slice(0, middle)}…`).width <= room) low = middle
        else high = middle - 1
      }
      short = `${text.slice(0, low)}…`
    }
    if (clips.size > 4000) clips.clear()
    clips.set(key, short)
  }
  return short
}

/** The sand-coloured band of the range, with dotted edges. */
export function drawBand(c: Context, box: Box, start: number, end: number, top: number, inks: Inks): void {
  const a = Math.max(xOf(start, box.view, box.width), LEFT)
  const b = Math.min(xOf(end, box.view, box.width), LEFT + box.width)
  if (b <= a) return
  c.fillStyle = inks.sand
  c.fillRect(a, top, b - a, box.height - top)
}

export function drawBandEdges(c: Context, box: Box, start: number, end: number, inks: Inks): void {
  c.save()
  c.setLineDash([2, 3])
  c.strokeStyle = inks.ink
  c.lineWidth = 1.2
  for (const beat of [start, end]) {
    const x = xOf(beat, box.view, box.width)
    if (x < LEFT - 1 || x > LEFT + box.width + 1) continue
    c.beginPath()
    c.moveTo(x, 0)
    c.lineTo(x, box.height)
    c.stroke()
  }
  c.restore()
}

interface Bracket {
  speaks: boolean
  ink: string
  chosen: boolean
}

type Named = Pick<RegionOut, 'name' | 'start' | 'length' | 'muted' | 'container'>

/** Brackets round a region, open at the top, with its name at the foot; only a foot where it has no lane here. */
export function drawRegion(c: Context, box: Box, scale: Scale, region: Named, how: Bracket, inks: Inks): void {
  const a = xOf(region.start, box.view, box.width)
  const b = xOf(region.start + region.length, box.view, box.width)
  if (b < LEFT || a > LEFT + box.width) return
  const top = how.speaks ? scale.top : scale.bottom - 2
  c.save()
  clipPlot(c, box)
  c.strokeStyle = how.ink
  c.lineWidth = how.chosen ? 1.8 : 1
  if (region.muted) c.setLineDash([3, 3])
  for (const lift of region.container ? [0, -3] : [0]) {
    c.beginPath()
    c.moveTo(Math.round(a) + 0.5, top)
    c.lineTo(Math.round(a) + 0.5, scale.bottom + 3.5 + lift)
    c.lineTo(Math.round(b) - 0.5, scale.bottom + 3.5 + lift)
    c.lineTo(Math.round(b) - 0.5, top)
    c.stroke()
  }
  c.font = `${how.chosen ? '700 ' : ''}11px 'Atkinson Hyperlegible Next Variable', sans-serif`
  c.textBaseline = 'alphabetic'
  c.fillStyle = how.ink === inks.bracket ? inks.soft : how.ink
  const said = `${region.name}${region.container ? ' (container)' : ''}${region.muted ? ', muted' : ''}`
  const room = Math.min(b, LEFT + box.width) - Math.max(a, LEFT) - 8
  if (room > 14) c.fillText(clipped(c, said, room), Math.max(a, LEFT) + 4, scale.bottom + 15)
  c.restore()
}

/** A gap that jumps or drifts: a wavy word at the foot, and a mark at its edges. */
export function drawGap(c: Context, box: Box, scale: Scale, gap: { start: number; end: number; message: string }, chosen: boolean, inks: Inks): void {
  const a = Math.max(xOf(gap.start, box.view, box.width), LEFT)
  const b = Math.min(xOf(gap.end, box.view, box.width), LEFT + box.width)
  if (b - a < 6) return
  c.save()
  clipPlot(c, box)
  c.strokeStyle = chosen ? inks.ink : inks.soft
  c.lineWidth = chosen ? 1.6 : 0.9
  c.beginPath()
  for (let x = a + 2; x < b - 2; x += 1) c.lineTo(x, scale.bottom + 4 + Math.sin((x - a) / 2.2) * 1.4)
  c.stroke()
  c.font = `${chosen ? '700 ' : ''}11px 'Atkinson Hyperlegible Next Variable', sans-serif`
  c.textBaseline = 'alphabetic'
  c.fillStyle = inks.soft
  if (b - a > 40) c.fillText(clipped(c, gap.message, b - a - 8), a + 4, scale.bottom + 16)
  c.restore()
}

/** What is heard: a broad soft line under the lanes, with the reason of each span in words above it. */
export function drawHeard(
  c: Context, box: Box, scale: Scale, line: { curve: Curve; spans: { start: number; end: number; why: string }[] }, inks: Inks,
): void {
  drawCurve(c, box, scale, line.curve, { color: inks.heard, width: 5, dash: [], points: 'none' })
  c.save()
  clipPlot(c, box)
  c.font = `11px 'Atkinson Hyperlegible Next Variable', sans-serif`
  c.textBaseline = 'top'
  c.fillStyle = inks.soft
  for (const span of line.spans) {
    const a = Math.max(xOf(span.start, box.view, box.width), LEFT)
    const b = Math.min(xOf(span.end, box.view, box.width), LEFT + box.width)
    if (b - a > 34) c.fillText(clipped(c, span.why, b - a - 10), a + 5, scale.top + 1)
  }
  c.restore()
}

function clipPlot(c: Context, box: Box): void {
  c.beginPath()
  c.rect(LEFT - 5, 0, box.width + 10, box.height)
  c.clip()
}

/** Clip what is drawn next to a span of beats (or to all but it). */
export function clipSpan(c: Context, box: Box, start: number, end: number, outside = false): void {
  clipSpans(c, box, [{ start, end }], outside)
}

/** Clip what is drawn next to some spans of beats (or to all but them), in one go. */
export function clipSpans(c: Context, box: Box, spans: { start: number; end: number }[], outside: boolean): void {
  const edges = spans
    .map(({ start, end }) => ({ a: xOf(start, box.view, box.width), b: xOf(end, box.view, box.width) }))
    .sort((one, other) => one.a - other.a)
  c.beginPath()
  if (outside) {
    let at = -10
    for (const { a, b } of edges) {
      if (a > at) c.rect(at, 0, a - at, box.height)
      at = Math.max(at, b)
    }
    const far = box.width + LEFT + RIGHT
    if (far > at) c.rect(at, 0, far - at, box.height)
  } else {
    for (const { a, b } of edges) c.rect(a - 5, 0, b - a + 10, box.height)
  }
  c.clip()
}

/** A curve: its line, then its points if there is room for them. */
export function drawCurve(c: Context, box: Box, scale: Scale, curve: Curve, pen: Pen): void {
  c.save()
  clipPlot(c, box)
  c.globalAlpha = pen.faint ? 0.35 : 1
  c.strokeStyle = pen.color
  c.fillStyle = pen.color
  c.lineWidth = pen.width
  c.setLineDash(pen.dash)
  c.lineJoin = pen.width > 3 ? 'bevel' : 'round' // broad round joins are slow to draw
  if (curve.lows.length) drawOutline(c, box, scale, curve)
  else drawPoints(c, box, scale, curve, pen)
  c.restore()
}

/** Each column from its low to its high, reaching to its neighbour; upright bars are quick to fill. */
function drawOutline(c: Context, box: Box, scale: Scale, curve: Curve): void {
  const { lows, highs, start, end } = curve
  const step = (end - start) / lows.length
  const first = Math.max(Math.floor((box.view.start - start) / step) - 1, 0)
  const last = Math.min(Math.ceil((box.view.end - start) / step) + 1, lows.length)
  const wide = Math.max((step / (box.view.end - box.view.start)) * box.width, 1)
  let low = first < last ? yOf(scale, lows[first]!) : 0
  let high = first < last ? yOf(scale, highs[first]!) : 0
  for (let i = first; i < last; i++) {
    const nextLow = yOf(scale, lows[i]!)
    const nextHigh = yOf(scale, highs[i]!)
    const top = Math.min(nextHigh, low)
    const bottom = Math.max(nextLow, high)
    c.fillRect(xOf(start + i * step, box.view, box.width), top - 0.6, wide, bottom - top + 1.2)
    low = nextLow
    high = nextHigh
  }
}

function drawPoints(c: Context, box: Box, scale: Scale, curve: Curve, pen: Pen): void {
  const { view, width } = box
  const { beats } = curve
  const { values, shapes } = curve
  if (!beats.length) return
  c.beginPath()
  c.moveTo(LEFT - 6, yOf(scale, values[0]!))
  c.lineTo(xOf(beats[0]!, view, width), yOf(scale, values[0]!))
  for (let i = 0; i + 1 < beats.length; i++) {
    const x0 = xOf(beats[i]!, view, width)
    const x1 = xOf(beats[i + 1]!, view, width)
    const y1 = yOf(scale, values[i + 1]!)
    const k = shapes[i]
    if (k === null || k === undefined) c.lineTo(x1, yOf(scale, values[i]!))
    else if (k !== 0) bentTo(c, scale, x0, x1, values[i]!, values[i + 1]!, k)
    c.lineTo(x1, y1)
  }
  const last = values[values.length - 1]!
  c.lineTo(Math.max(xOf(beats[beats.length - 1]!, view, width), LEFT + width + 6), yOf(scale, last))
  c.stroke()
  c.setLineDash([])
  if (pen.points !== 'none') drawHandles(c, box, scale, curve, pen)
}

/** A stroke on its way: fresh ink under the pointer. */
export function drawStroke(c: Context, stroke: { x: number; y: number }[], inks: Inks): void {
  if (stroke.length < 2) return
  c.strokeStyle = inks.fresh
  c.lineWidth = 1.5
  c.beginPath()
  stroke.forEach((p, i) => (i ? c.lineTo(p.x, p.y) : c.moveTo(p.x, p.y)))
  c.stroke()
}

function bentTo(c: Context, scale: Scale, x0: number, x1: number, v0: number, v1: number, k: number): void {
  const a0 = toAxis(scale.parameter, v0)
  const a1 = toAxis(scale.parameter, v1)
  const steps = Math.min(Math.max(Math.ceil((x1 - x0) / 4), 6), 120)
  for (let s = 1; s < steps; s++) {
    const x = s / steps
    c.lineTo(x0 + (x1 - x0) * x, yOfAxis(scale, a0 + (a1 - a0) * bend(x, k)))
  }
}

function drawHandles(c: Context, box: Box, scale: Scale, curve: Curve, pen: Pen): void {
  const seen = curve.beats.map((b) => xOf(b, box.view, box.width))
  const inside = seen.filter((x) => x >= LEFT - 4 && x <= LEFT + box.width + 4).length
  if (inside * 7 > box.width) return
  const paper = readInks().sheet
  c.lineWidth = 1.4
  seen.forEach((x, i) => {
    if (x < LEFT - 4 || x > LEFT + box.width + 4) return
    const y = yOf(scale, curve.values[i]!)
    c.beginPath()
    if (pen.points === 'diamonds') {
      c.moveTo(x, y - 4.5)
      c.lineTo(x + 4.5, y)
      c.lineTo(x, y + 4.5)
      c.lineTo(x - 4.5, y)
      c.closePath()
      c.fillStyle = pen.color
      c.fill()
      return
    }
    const full = pen.filled?.(curve.beats[i]!, curve.first + i) ?? false
    c.arc(x, y, full ? 3.8 : 2.7, 0, Math.PI * 2)
    c.fillStyle = full ? pen.color : paper
    c.fill()
    c.stroke()
  })
}
