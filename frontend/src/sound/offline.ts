// A score in the page's own graph, rendered without a loudspeaker: what the page would sound like, to be held beside the core's.
import type { Schemas } from '../api/types'
import { Graph } from './graph'
import { FRAMES_OF_CHUNK, impulse, RATE, Takes } from './takes'

/** Both sides of a span of a score, as 32-bit floats in base64, one after the other. */
export async function rendered(session: number, score: Schemas['ScoreOut']): Promise<string[]> {
  const ctx = new OfflineAudioContext(2, Math.round((score.end - score.start) * RATE), RATE)
  const takes = new Takes(session)
  for (const { pieces, nodes } of score.channels) {
    for (const { key, start, length, offset } of pieces) {
      const [a, b] = [Math.max(start, score.start), Math.min(start + length, score.end)]
      if (a >= b) continue
      const frame = (seconds: number) => Math.floor(((offset + seconds - start) * RATE) / FRAMES_OF_CHUNK)
      for (let n = frame(a); n <= frame(b); n++) await takes.of(key, n)
    }
    for (const { ramps } of nodes)
      for (const name of Object.keys(ramps)) if (name.startsWith('decay ')) await impulse(Number(name.slice(6)))
  }
  const graph = new Graph(ctx, score, takes)
  graph.master.connect(ctx.destination)
  graph.begin({ from: score.start, to: score.end, at: 0 })
  graph.until(score.end)
  await new Promise((done) => setTimeout(done, 50)) // impulses are put in their places
  const made = await ctx.startRendering()
  return [0, 1].map((side) => base64(made.getChannelData(side)))
}

function base64(samples: Float32Array): string {
  const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength)
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}
