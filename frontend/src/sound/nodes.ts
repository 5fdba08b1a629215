// Nodes: what stands for a device in the audio graph, each with the lines its parameters follow.
import type { Schemas } from '../api/types'
import { Line } from './lines'
import { impulse } from './takes'

type NodeOut = Schemas['NodeOut']
const DRIVEN = 8 // how far a drive's curve is known, as in the core
const LONGEST_DELAY = 4.1

export interface Passed {
  input: AudioNode
  output: AudioNode
  lines: Map<string, Line>
}

function gain(ctx: BaseAudioContext, value = 1): GainNode {
  const node = ctx.createGain()
  node.gain.value = value
  return node
}
function chain(...nodes: AudioNode[]): void {
  for (let i = 1; i < nodes.length; i++) nodes[i - 1]!.connect(nodes[i]!)
}

const MAKERS: Record<string, (ctx: BaseAudioContext, node: NodeOut) => Passed> = {
  gain: (ctx, { ramps }) => {
    const node = gain(ctx)
    return { input: node, output: node, lines: new Map([['gain', new Line(node.gain, ramps['gain']!)]]) }
  },
  filter: (ctx, { word, says, ramps }) => {
    const node = ctx.createBiquadFilter()
    node.type = word as BiquadFilterType
    node.Q.value = says['q'] ?? 1
    const lines = new Map([['frequency', new Line(node.frequency, ramps['frequency']!)]])
    if (ramps['gain']) lines.set('gain', new Line(node.gain, ramps['gain']))
    return { input: node, output: node, lines }
  },
  drive: (ctx, { ramps }) => {
    const [pre, shape, post] = [gain(ctx), ctx.createWaveShaper(), gain(ctx)]
    shape.curve = Float32Array.from({ length: 8193 }, (_, i) => Math.tanh((i / 4096 - 1) * DRIVEN))
    chain(pre, shape, post)
    const lines = new Map([
      ['pre', new Line(pre.gain, ramps['pre']!, (v) => v / DRIVEN)],
      ['post', new Line(post.gain, ramps['post']!)],
    ])
    return { input: pre, output: post, lines }
  },
  delay: (ctx, { ramps }) => {
    const [input, output, late] = [gain(ctx), gain(ctx), ctx.createDelay(LONGEST_DELAY)]
    const [again, wet] = [gain(ctx), gain(ctx)]
    chain(input, output)
    chain(input, late, wet, output)
    chain(late, again, late)
    const lines = new Map([
      ['time', new Line(late.delayTime, ramps['time']!)],
      ['feedback', new Line(again.gain, ramps['feedback']!)],
      ['wet', new Line(wet.gain, ramps['wet']!)],
    ])
    return { input, output, lines }
  },
  hall: (ctx, { ramps }) => {
    const [input, output, dry, wet] = [gain(ctx), gain(ctx), gain(ctx), gain(ctx)]
    chain(input, dry, output)
    chain(input, wet)
    const lines = new Map([
      ['dry', new Line(dry.gain, ramps['dry']!)],
      ['wet', new Line(wet.gain, ramps['wet']!)],
    ])
    for (const [name, ramp] of Object.entries(ramps)) {
      if (!name.startsWith('decay ')) continue
      const [share, room] = [gain(ctx), new ConvolverNode(ctx, { disableNormalization: true })]
      chain(wet, share, room, output)
      void impulse(Number(name.slice(6))).then((buffer) => (room.buffer = buffer))
      lines.set(name, new Line(share.gain, ramp))
    }
    return { input, output, lines }
  },
}

/** A node with its lines; one that can be switched off has a way beside it. */
export function made(ctx: BaseAudioContext, node: NodeOut): Passed {
  const inner = MAKERS[node.kind]!(ctx, node)
  if (!node.on) return inner
  const [input, output, through, beside] = [gain(ctx), gain(ctx), gain(ctx), gain(ctx)]
  chain(input, inner.input)
  chain(inner.output, through, output)
  chain(input, beside, output)
  const lines = new Map(inner.lines)
  lines.set('on', new Line(through.gain, node.on))
  lines.set('beside', new Line(beside.gain, node.on, (v) => 1 - v))
  return { input, output, lines }
}

/** The ramps of a node's lines, by the same names. */
export function rampsOf(node: NodeOut, name: string): Schemas['RampsOut'] | undefined {
  return (name === 'on' || name === 'beside' ? node.on : node.ramps[name]) ?? undefined
}
