// Draws a curve that is given as the low and the high of each column: upright runs of pixels, set directly,
// as asking a canvas for thousands of thin shapes takes far longer.
import type { Curve } from '../api/types'
import { LEFT, xOf, yOf, type Scale } from './geometry'
import { AIR, type Box, type Pixels } from './line'

type Context = CanvasRenderingContext2D

const THINNEST = 0.6 // pixels on each side of the line

/** The highest and lowest pixel of each column of pixels, from the left edge of what is drawn. */
interface Runs {
  tops: Float32Array
  bottoms: Float32Array
}

/** Each column from its low to its high. */
export function drawOutline(
  c: Context,
  box: Box,
  scale: Scale,
  curve: Curve,
  pen: { color: string; width: number },
  parts: readonly Pixels[],
): void {
  const ratio = window.devicePixelRatio || 1
  const width = Math.ceil((box.width + 2 * AIR) * ratio)
  const height = Math.ceil(box.height * ratio)
  const pixel = (x: number) => (x - LEFT + AIR) * ratio
  for (const part of parts) {
    const [a, b] = [pixel(part[0]), pixel(part[1])]
    const [from, to] = [Math.max(Math.floor(a), 0), Math.min(Math.ceil(b), width)]
    if (to <= from) continue
    const runs = runsOf(curve, box, scale, ratio, width, from - 1, to + 1)
    const picture = pictureOf(to - from, height)
    paint(picture, runs, pen, [a, b], ratio, from)
    picture.context.putImageData(picture.image, 0, 0, 0, 0, to - from, height)
    c.drawImage(picture.canvas, 0, 0, to - from, height, LEFT - AIR + from / ratio, 0, (to - from) / ratio, height / ratio)
  }
}

/** Of some columns of pixels. Between the middles of two columns a run goes straight from the one to the other, so that slopes are smooth. */
function runsOf(curve: Curve, box: Box, scale: Scale, ratio: number, width: number, first: number, last: number): Runs {
  const { lows, highs, start, end } = curve
  const runs: Runs = { tops: new Float32Array(width).fill(Infinity), bottoms: new Float32Array(width).fill(-Infinity) }
  const step = (end - start) / lows.length
  const wide = (step / (box.view.end - box.view.start)) * box.width * ratio
  const left = (xOf(start, box.view, box.width) - LEFT + AIR) * ratio
  const place = (values: number[], at: number) => {
    const i = Math.min(Math.max(Math.floor(at), 0), values.length - 1)
    const part = Math.min(Math.max(at - i, 0), 1)
    const [y, next] = [yOf(scale, values[i]!), yOf(scale, values[Math.min(i + 1, values.length - 1)]!)]
    return (y + (next - y) * part) * ratio
  }
  const samples = Math.max(Math.ceil(1 / wide), 1) // columns that share a pixel
  for (let x = Math.max(first, 0); x < Math.min(last, width); x++) {
    for (let s = 0; s < samples; s++) {
      const at = (x + (s + 0.5) / samples - left) / wide - 0.5
      runs.tops[x] = Math.min(runs.tops[x]!, place(highs, at))
      runs.bottoms[x] = Math.max(runs.bottoms[x]!, place(lows, at))
    }
  }
  return runs
}

/** Fill the runs of a part on a picture that begins at column `left`; the pixels at both ends by how much of them is covered. */
function paint(
  picture: Picture,
  { tops, bottoms }: Runs,
  pen: { color: string; width: number },
  part: Pixels,
  ratio: number,
  left: number,
): void {
  const { pixels } = picture
  const { width: across, height } = picture.image
  const width = tops.length
  const ink = inkOf(pen.color)
  const half = Math.max(pen.width / 2, THINNEST) * ratio
  const middle = (x: number) => (tops[x]! + bottoms[x]!) / 2
  const riseAt = (x: number) => (x < 0 || x + 1 >= width ? 0 : Math.abs(middle(x + 1) - middle(x)))
  for (let x = Math.max(Math.round(part[0]), left); x < Math.min(Math.round(part[1]), width, left + across); x++) {
    const steep = Math.min(riseAt(x), riseAt(x - 1), 3) // a slope is as broad as a level line, measured across it
    const air = half * Math.sqrt(1 + steep * steep)
    const top = Math.max(tops[x]! - air, 0)
    const bottom = Math.min(bottoms[x]! + air, height)
    if (bottom <= top) continue
    const [a, b] = [Math.floor(top), Math.ceil(bottom) - 1]
    const column = x - left
    for (let y = a + 1; y < b; y++) pixels[y * across + column] = ink | 0xff000000
    const head = a === b ? bottom - top : a + 1 - top
    pixels[a * across + column] = ink | (Math.round(head * 255) << 24)
    if (b > a) pixels[b * across + column] = ink | (Math.round((bottom - b) * 255) << 24)
  }
}

interface Picture {
  canvas: HTMLCanvasElement
  context: Context
  image: ImageData
  pixels: Uint32Array
}

let kept: Picture | null = null

const STEP = 256 // pixels in which a picture grows

/** An empty picture of at least a width; the same one again and again. */
function pictureOf(width: number, height: number): Picture {
  if (!kept || kept.image.width < width || kept.image.height !== height) {
    const canvas = kept?.canvas ?? document.createElement('canvas')
    canvas.width = Math.ceil(width / STEP) * STEP
    canvas.height = height
    const context = canvas.getContext('2d', { willReadFrequently: true })!
    const image = context.createImageData(canvas.width, height)
    kept = { canvas, context, image, pixels: new Uint32Array(image.data.buffer) }
  }
  kept.pixels.fill(0)
  return kept
}

const inks = new Map<string, number>()

/** A colour as the blue, green and red bytes of a pixel. */
function inkOf(color: string): number {
  let ink = inks.get(color)
  if (ink === undefined) {
    const probe = document.createElement('canvas').getContext('2d')!
    probe.fillStyle = color
    const [, r, g, b] = /^#(..)(..)(..)$/.exec(probe.fillStyle) ?? ['', '00', '00', '00']
    ink = (parseInt(b, 16) << 16) | (parseInt(g, 16) << 8) | parseInt(r, 16)
    inks.set(color, ink)
  }
  return ink
}
