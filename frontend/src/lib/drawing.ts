// Draws one strip's chart, curves and regions on a canvas. Pure drawing: it is told everything.
import type { Curve, RegionOut, Schemas, SessionOut } from '../api/types'
import { BOLD, MONO, SANS } from './typefaces'
import { LEFT, RIGHT, xOf, yOf, type Scale } from './geometry'
import { cutTo, lineOf, seen, wholeOf, type Box, type Line, type Pixels } from './line'
import { drawOutline } from './columns'

export type { Box, Pixels }

/** Of the strip’s height, how far a sound at full scale reaches; its root is drawn, so that what is soft is seen too. */
const SILHOUETTE = 0.92

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
  sound: string
  guest: string
  /** How the range's band is laid over light papers, and over dark ones. */
  band: GlobalCompositeOperation
  family: Record<string, string>
}

let inks: Inks | null = null
let inksFor = ''

/** The inks of the style sheet, read once for each of the papers: asking the page for styles at every frame is slow. */
export function readInks(): Inks {
  const papers = document.documentElement.dataset['papers'] ?? ''
  if (!inks || papers !== inksFor) inks = inksOfPage(papers)
  inksFor = papers
  return inks
}

function inksOfPage(papers: string): Inks {
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
    bracket: of('bracket'),
    heard: of('heard'),
    sound: of('sound'),
    guest: of('guest'),
    band: papers === 'dark' ? 'lighten' : 'multiply',
    family: Object.fromEntries(families.map((f) => [f, of(f)])),
  }
}

const CROWDED = 6 // pixels

export interface Pen {
  color: string
  width: number
  dash: number[]
  points: 'dots' | 'diamonds' | 'none'
  faint?: boolean
  /** Whether what is drawn full was picked point by point. */
  picked?: boolean
  filled?: (beat: number, index: number) => boolean
}

type Context = CanvasRenderingContext2D

/** Size a canvas to its box and the screen's pixels; gives its cleared context. `opaque`: all of it will be filled. */
export function prepared(canvas: HTMLCanvasElement, width: number, height: number, opaque = false): Context {
  const ratio = window.devicePixelRatio || 1
  if (canvas.width !== Math.round(width * ratio) || canvas.height !== Math.round(height * ratio)) {
    canvas.width = Math.round(width * ratio)
    canvas.height = Math.round(height * ratio)
  }
  const context = canvas.getContext('2d', { alpha: !opaque })!
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  if (!opaque) context.clearRect(0, 0, width, height)
  return context
}

/** A track's sound behind its strip: how far it reaches in every pixel, from the foot up. */
export function drawSilhouette(
  c: Context,
  box: Box,
  scale: Scale,
  reach: (start: number, end: number) => number,
  inks: Inks,
): void {
  const { view, width } = box
  const perPixel = (view.end - view.start) / width
  const tall = (scale.bottom - scale.top) * SILHOUETTE
  c.fillStyle = inks.sound
  c.beginPath()
  c.moveTo(LEFT, scale.bottom)
  for (let x = 0; x <= width; x++) {
    const beat = view.start + x * perPixel
    c.lineTo(LEFT + x, scale.bottom - Math.sqrt(reach(beat, beat + perPixel)) * tall)
  }
  c.lineTo(LEFT + width, scale.bottom)
  c.fill()
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
      for (let i = 1; i < bar.count; i++) vertical(c, xOf(bar.beat + (i * 4) / bar.unit, view, width), scale, inks.quiet, box)
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

/** The texts of the marks, for the margin right of the chart. */
export function drawMarkTexts(c: Context, scale: Scale, inks: Inks): void {
  c.textBaseline = 'middle'
  c.fillStyle = inks.soft
  for (const { y, text } of marksOf(scale)) write(c, MONO, text, 7, y, RIGHT - 8)
}

/** The marks in view that do not crowd each other, from the lowest up. */
function marksOf(scale: Scale): { y: number; text: string }[] {
  const out: { y: number; text: string }[] = []
  for (const mark of scale.parameter.axis.marks) {
    const y = yOf(scale, mark.value)
    const last = out[out.length - 1]
    if (y < scale.top - 1 || y > scale.bottom + 1 || (last && last.y - y < 15)) continue
    out.push({ y, text: mark.text })
  }
  return out
}

const clips = new Map<string, string>()
const widths = new Map<string, number>()

// What was measured while a typeface was still on its way is not as wide as that.
document.fonts.addEventListener('loadingdone', () => {
  clips.clear()
  widths.clear()
})

/** A text short enough for a width; remembered, as the same is asked at every drawing. */
function clipped(c: Context, font: string, text: string, width: number): string {
  const room = Math.floor(width)
  return remembered(clips, `${font} ${room} ${text}`, () => {
    if (widthOf(c, font, text) <= room) return text
    let [low, high] = [0, text.length]
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (widthOf(c, font, `${text.slice(0, middle)}…`) <= room) low = middle
      else high = middle - 1
    }
    return `${text.slice(0, low)}…`
  })
}

/** How wide a text is; remembered, as measuring is slow. */
function widthOf(c: Context, font: string, text: string): number {
  return remembered(widths, `${font} ${text}`, () => {
    c.font = font
    return c.measureText(text).width
  })
}

function remembered<V>(known: Map<string, V>, key: string, work: () => V): V {
  let value = known.get(key)
  if (value === undefined) {
    value = work()
    if (known.size > 4000) known.clear()
    known.set(key, value)
  }
  return value
}

/** Writes as much of a text as there is room for. */
function write(c: Context, font: string, text: string, x: number, y: number, room: number): void {
  const said = clipped(c, font, text, room)
  c.font = font
  c.fillText(said, x, y)
}

/** The sand-coloured band of the range, over what is drawn: it tints the paper and leaves the ink. */
export function drawBand(c: Context, box: Box, start: number, end: number, inks: Inks): void {
  const a = Math.max(xOf(start, box.view, box.width), LEFT)
  const b = Math.min(xOf(end, box.view, box.width), LEFT + box.width)
  if (b <= a) return
  c.globalCompositeOperation = inks.band
  c.fillStyle = inks.sand
  c.fillRect(a, 0, b - a, box.height)
  c.globalCompositeOperation = 'source-over'
}

/** The two rails of a lane over what is reshaped of it: thin ruled lines, with the values at their ends. */
export function drawRails(c: Context, box: Box, scale: Scale, rails: Schemas['RailedOut'], inks: Inks): void {
  const [a, b] = [xOf(rails.start, box.view, box.width), xOf(rails.end, box.view, box.width)]
  if (!seen(box, a - 2, b + 2)) return
  c.save()
  clipPlot(c, box)
  c.lineWidth = 1
  for (const side of rails.flat ? (['high'] as const) : (['high', 'low'] as const)) {
    const [start, end] = [`${side}_start`, `${side}_end`] as const
    const [was0, was1, now0, now1] = [rails.before[start], rails.before[end], rails.after[start], rails.after[end]]
    const moves = was0 !== now0 || was1 !== now1
    if (moves) rule(c, a, yOf(scale, was0), b, yOf(scale, was1), inks.pencil, [2, 4])
    rule(c, a, yOf(scale, now0), b, yOf(scale, now1), moves ? inks.fresh : inks.ink, [])
    c.fillStyle = moves ? inks.fresh : inks.soft
    c.textBaseline = 'alphabetic'
    const below = side === 'low' ? 12 : -4
    const text = rails.texts[end]
    const width = widthOf(c, MONO, text)
    if (b - a > width + 70) write(c, MONO, text, Math.min(b, LEFT + box.width) - width - 6, yOf(scale, now1) + below, width + 2)
    const first = rails.texts[start]
    if (now0 !== now1 && b - a > 2 * width + 90) write(c, MONO, first, Math.max(a, LEFT) + 6, yOf(scale, now0) + below, 120)
  }
  c.restore()
}

function rule(c: Context, x0: number, y0: number, x1: number, y1: number, color: string, dash: number[]): void {
  const level = y0 === y1 ? Math.round(y0) + 0.5 : null
  c.strokeStyle = color
  c.setLineDash(dash)
  c.beginPath()
  c.moveTo(x0, level ?? y0)
  c.lineTo(x1, level ?? y1)
  c.stroke()
  c.setLineDash([])
}

interface Bracket {
  hasLane: boolean
  ink: string
  chosen: boolean
}

type Named = Pick<RegionOut, 'name' | 'start' | 'length' | 'muted' | 'container'> & { note?: string }

/**
 * Brackets round a region, open at the top, with its name at the foot; only a foot where it has no lane here.
 * The name stands no further left than `free`; gives where the next one may stand.
 */
export function drawRegion(c: Context, box: Box, scale: Scale, region: Named, how: Bracket, inks: Inks, free = 0): number {
  const a = xOf(region.start, box.view, box.width)
  const b = xOf(region.start + region.length, box.view, box.width)
  if (b < LEFT || a > LEFT + box.width) return free
  const said = `${region.name}${region.container ? ' (container)' : ''}${region.muted ? ', muted' : ''}${region.note ? ` “${region.note}”` : ''}`
  const at = Math.max(a + 4, LEFT + 4, free)
  const room = Math.min(b, LEFT + box.width) - at - 4
  const font = how.chosen ? BOLD : SANS
  const name = room > 14 ? clipped(c, font, said, room) : ''
  const next = name ? at + widthOf(c, font, name) + 8 : free
  if (!seen(box, a - 2, b + 2)) return next
  const top = how.hasLane ? scale.top : scale.bottom - 2
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
  c.font = font
  c.textBaseline = 'alphabetic'
  c.fillStyle = how.ink === inks.bracket ? inks.soft : how.ink
  c.fillText(name, at, scale.bottom + 15)
  c.restore()
  return next
}

/** Where the rules of placements lie, in pixels from a strip's top. */
export const RULE = 25

/** A placement: a thin rule over its span with stops at its ends, its name and how many places share it. */
export function drawPlace(
  c: Context,
  box: Box,
  place: { start: number; length: number; name: string; places: number },
  chosen: boolean,
  color: string,
  inks: Inks,
): void {
  const a = xOf(place.start, box.view, box.width)
  const b = xOf(place.start + place.length, box.view, box.width)
  if (!seen(box, a - 2, b + 2)) return
  c.save()
  clipPlot(c, box)
  c.strokeStyle = color
  c.lineWidth = chosen ? 2.4 : 1
  c.beginPath()
  c.moveTo(Math.round(a) + 0.5, RULE - 3)
  c.lineTo(Math.round(a) + 0.5, RULE + 4)
  c.moveTo(Math.round(a), RULE + 0.5)
  c.lineTo(Math.round(b), RULE + 0.5)
  c.moveTo(Math.round(b) - 0.5, RULE - 3)
  c.lineTo(Math.round(b) - 0.5, RULE + 4)
  c.stroke()
  const said = place.places > 1 ? `${place.name}, ${place.places} places` : place.name
  const font = chosen ? BOLD : SANS
  const at = Math.max(a + 6, LEFT + 4)
  const name = clipped(c, font, said, Math.min(b, LEFT + box.width) - at - 6)
  if (b - a > 30 && name) {
    c.font = font
    c.textBaseline = 'alphabetic'
    const width = widthOf(c, font, name)
    c.fillStyle = inks.sheet
    c.fillRect(at - 3, RULE - 5, width + 6, 11)
    c.fillStyle = color
    c.fillText(name, at, RULE + 4)
  }
  c.restore()
}

/** A finding: a wavy word at the foot, and a mark at its edges. */
export function drawFinding(
  c: Context,
  box: Box,
  scale: Scale,
  finding: { start: number; end: number; words: string },
  chosen: boolean,
  inks: Inks,
  taken: readonly (readonly [number, number])[] = [],
): void {
  const a = Math.max(xOf(finding.start, box.view, box.width), LEFT)
  const b = Math.min(xOf(finding.end, box.view, box.width), LEFT + box.width)
  if (b - a < 6 || !seen(box, a, b)) return
  c.save()
  clipPlot(c, box)
  c.strokeStyle = chosen ? inks.ink : inks.soft
  c.lineWidth = chosen ? 1.6 : 0.9
  c.beginPath()
  c.moveTo(a + 2, scale.bottom + 4)
  for (let x = a + 2, lift = -3; x + 7 < b; x += 7, lift = -lift)
    c.quadraticCurveTo(x + 3.5, scale.bottom + 4 + lift, x + 7, scale.bottom + 4)
  c.stroke()
  c.textBaseline = 'alphabetic'
  c.fillStyle = inks.soft
  // Where a region's name stands it says nothing.
  const from = Math.max(a + 4, ...taken.filter(([x0, x1]) => x0 < b && x1 > a).map(([, x1]) => x1 + 6))
  if (b - from > 36) write(c, chosen ? BOLD : SANS, finding.words, from, scale.bottom + 16, b - from - 4)
  c.restore()
}

/** What is heard: a broad soft line under the lanes, and above it, where there is room, why in each span. */
export function drawHeard(
  c: Context,
  box: Box,
  scale: Scale,
  line: { curve: Curve; spans: { start: number; end: number; why: string }[] },
  inks: Inks,
): void {
  c.save()
  c.beginPath()
  c.rect(LEFT - 5, scale.top - 3, box.width + 10, scale.bottom - scale.top + 5) // it may leave what the strip shows
  c.clip()
  drawCurve(c, box, scale, line.curve, { color: inks.heard, width: 5, dash: [], points: 'none' })
  c.textBaseline = 'top'
  c.fillStyle = inks.soft
  const words = scale.bottom - scale.top > 40 ? line.spans : [] // a low strip has no room beside its curve
  for (const span of words) {
    const a = Math.max(xOf(span.start, box.view, box.width), LEFT)
    const b = Math.min(xOf(span.end, box.view, box.width), LEFT + box.width)
    if (b - a <= 34 || !seen(box, a, b)) continue
    const said = clipped(c, SANS, span.why, b - a - 10)
    const y = clearOf(box, scale, line.curve, a, a + 10 + widthOf(c, SANS, said))
    c.font = SANS
    c.strokeStyle = inks.sheet
    c.lineWidth = 3
    c.strokeText(said, a + 5, y)
    c.fillText(said, a + 5, y)
  }
  c.restore()
}

/** Where words of one line stand beside a curve: at the top of the chart, or at its foot where the curve runs up there. */
function clearOf(box: Box, scale: Scale, curve: Curve, from: number, to: number): number {
  const near = curve.beats.flatMap((beat, i) => {
    const next = curve.beats[i + 1] ?? Infinity
    const reaches = xOf(beat, box.view, box.width) <= to && xOf(next, box.view, box.width) >= from
    return reaches ? [curve.values[i]!, curve.values[i + 1] ?? curve.values[i]!] : []
  })
  const ys = near.map((value) => yOf(scale, value))
  const [top, foot] = [scale.top + 1, scale.bottom - 14]
  return Math.min(...ys) < scale.top + 15 && Math.max(...ys) < foot ? foot : top
}

function clipPlot(c: Context, box: Box): void {
  c.beginPath()
  c.rect(LEFT - 5, 0, box.width + 10, box.height)
  c.clip()
}

/** A curve: its line, then its points if there is room for them; only in some parts of the window, if they are given. */
export function drawCurve(
  c: Context,
  box: Box,
  scale: Scale,
  curve: Curve,
  pen: Pen,
  parts: readonly Pixels[] = wholeOf(box),
): void {
  c.save()
  c.globalAlpha = pen.faint ? 0.35 : 1
  if (curve.lows.length) drawOutline(c, box, scale, curve, pen, parts)
  else if (curve.beats.length) drawLine(c, box, scale, curve, pen, parts)
  c.restore()
}

function drawLine(c: Context, box: Box, scale: Scale, curve: Curve, pen: Pen, parts: readonly Pixels[]): void {
  const line = lineOf(curve, box, scale)
  c.strokeStyle = pen.color
  c.lineWidth = pen.width
  c.setLineDash(pen.dash)
  c.lineJoin = pen.width > 3 ? 'bevel' : 'round' // broad round joins are slow to draw
  c.beginPath()
  for (const part of parts) trace(c, cutTo(line, part))
  c.stroke()
  c.setLineDash([])
  if (pen.points !== 'none') drawHandles(c, box, scale, curve, pen, parts)
}

function trace(c: Context, { xs, ys }: Line): void {
  if (xs.length) c.moveTo(xs[0]!, ys[0]!)
  for (let i = 1; i < xs.length; i++) c.lineTo(xs[i]!, ys[i]!)
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

/** The points as dots, full ones larger; or as diamonds. */
function drawHandles(c: Context, box: Box, scale: Scale, curve: Curve, pen: Pen, parts: readonly Pixels[]): void {
  const places = curve.beats.map((b) => xOf(b, box.view, box.width))
  const inside = places.flatMap((x, i) => (x >= LEFT - 4 && x <= LEFT + box.width + 4 ? [i] : []))
  if (inside.length * 7 > box.width) return
  c.beginPath()
  for (const i of inside) {
    const [x, y] = [places[i]!, yOf(scale, curve.values[i]!)]
    if (!parts.some(([from, to]) => x >= from - 0.5 && x <= to + 0.5)) continue
    const full = pen.filled?.(curve.beats[i]!, curve.first + i) ?? false
    if (isCrowded(places, i) && !(full && pen.picked)) continue
    if (pen.points === 'diamonds') diamond(c, x, y)
    else stamp(c, pen.color, full, x, y)
  }
  c.fillStyle = pen.color
  c.fill()
}

/** Whether points stand so close on both sides that their dots would only make a thick line. */
function isCrowded(places: number[], i: number): boolean {
  const beside = [places[i - 1], places[i + 1]].map((x) => (x === undefined ? Infinity : Math.abs(x - places[i]!)))
  return beside.every((gap) => gap > 0 && gap < CROWDED)
}

const STAMP = 12
const stamps = new Map<string, HTMLCanvasElement>()

/** A dot, drawn once for each ink and then copied to whole pixels: hundreds of circles take many times longer. */
function stamp(c: Context, color: string, full: boolean, x: number, y: number): void {
  const ratio = window.devicePixelRatio || 1
  const key = `${color} ${full} ${ratio}`
  const made = stamps.get(key) ?? dot(color, full)
  stamps.set(key, made)
  const at = (z: number) => Math.round((z - STAMP / 2) * ratio) / ratio
  c.drawImage(made, at(x), at(y), STAMP, STAMP)
}

function dot(color: string, full: boolean): HTMLCanvasElement {
  const picture = document.createElement('canvas')
  const c = prepared(picture, STAMP, STAMP)
  c.arc(STAMP / 2, STAMP / 2, full ? 3.8 : 2.7, 0, Math.PI * 2)
  c.lineWidth = 1.4
  c.strokeStyle = color
  c.fillStyle = full ? color : readInks().sheet
  c.fill()
  c.stroke()
  return picture
}

function diamond(c: Context, x: number, y: number): void {
  c.moveTo(x, y - 4.5)
  c.lineTo(x + 4.5, y)
  c.lineTo(x, y + 4.5)
  c.lineTo(x - 4.5, y)
  c.closePath()
}
