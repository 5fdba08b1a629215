// What is clipped and shortened when strips are drawn.
import { expect, it } from 'vitest'
import { clipSpans, type Box } from './drawing'
import { LEFT, RIGHT } from './geometry'

/** A context that keeps the rectangles it was clipped to. */
function recorder() {
  const rects: number[][] = []
  return { rects, context: { beginPath() {}, clip() {}, rect: (x: number, _: number, w: number) => rects.push([x, x + w]) } }
}
const box: Box = { view: { start: 0, end: 100 }, width: 100, height: 50 }

it('clips to all but overlapping spans, wherever they start', () => {
  const { rects, context } = recorder()
  const spans = [{ start: 40, end: 60 }, { start: 10, end: 30 }, { start: 20, end: 45 }]
  clipSpans(context as unknown as CanvasRenderingContext2D, box, spans, true)
  expect(rects).toEqual([[-10, LEFT + 10], [LEFT + 60, 100 + LEFT + RIGHT]])
})

it('clips to the spans themselves with room for the points at their edges', () => {
  const { rects, context } = recorder()
  clipSpans(context as unknown as CanvasRenderingContext2D, box, [{ start: 10, end: 30 }], false)
  expect(rects).toEqual([[LEFT + 5, LEFT + 35]])
})

it('leaves all of it where there is no span', () => {
  const { rects, context } = recorder()
  clipSpans(context as unknown as CanvasRenderingContext2D, box, [], true)
  expect(rects).toEqual([[-10, 100 + LEFT + RIGHT]])
})
