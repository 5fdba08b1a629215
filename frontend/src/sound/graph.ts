// Graph: a score as an audio graph. Channels on their way to a master, their sounds in pieces, every parameter a line.
import type { Schemas } from '../api/types'
import { clockAt, Line, type Leg } from './lines'
import { made, rampsOf, type Passed } from './nodes'
import { RATE, FRAMES_OF_CHUNK, type Takes } from './takes'

type ScoreOut = Schemas['ScoreOut']
type ChannelOut = Schemas['ChannelOut']
type PieceOut = Schemas['PieceOut']
const FADE = 0.005
/** Frames that a meter looks at: a little more than pass between two looks. */
export const METER_FRAMES = 4096
const AHEAD = 6 // seconds of sound that are asked for before they are needed

/** What two scores have to have in common for one graph to play both. */
export function formOf(score: ScoreOut): string {
  return JSON.stringify(
    score.channels.map((c) => [
      c.id,
      c.gains.map((g) => g.parameter),
      c.pan.length,
      c.sends.map((s) => s.bus),
      c.nodes.map((n) => [n.kind, n.word, n.says, Object.keys(n.ramps), !!n.on]),
    ]),
  )
}

/** One channel of the graph. */
class Strip {
  readonly input: GainNode
  readonly output: GainNode
  /** What only listening does: alone, silent. */
  readonly listened: GainNode
  readonly meters: AnalyserNode[]
  readonly gains = new Map<string, Line>()
  private readonly passed: Passed[]
  private readonly lines: { line: Line; of: (channel: ChannelOut) => Schemas['RampsOut'] | undefined }[] = []
  private playing = new Map<AudioScheduledSourceNode, () => void>()
  private begun = new Set<string>()

  constructor(
    readonly ctx: BaseAudioContext,
    public channel: ChannelOut,
    private readonly takes: Takes,
  ) {
    this.input = ctx.createGain()
    let at: AudioNode = this.input
    this.passed = channel.nodes.map((node, i) => {
      const passed = made(ctx, node)
      at.connect(passed.input)
      at = passed.output
      for (const [name, line] of passed.lines) this.lines.push({ line, of: (c) => rampsOf(c.nodes[i]!, name) })
      return passed
    })
    channel.gains.forEach((moved, i) => {
      const node = ctx.createGain()
      const line = new Line(node.gain, moved)
      this.lines.push({ line, of: (c) => c.gains[i] })
      this.gains.set(moved.parameter, line)
      at.connect(node)
      at = node
    })
    this.listened = ctx.createGain()
    this.placed(at).connect(this.listened)
    this.output = this.listened
    this.meters = metersOf(ctx, this.output)
  }

  /** By equal power: all of it at one place, or each side at its own. */
  private placed(at: AudioNode): AudioNode {
    const panners = this.channel.pan.map((moved, i) => {
      const node = this.ctx.createStereoPanner()
      const line = new Line(node.pan, moved)
      this.lines.push({ line, of: (c) => c.pan[i] })
      if (moved.parameter) this.gains.set(moved.parameter, line)
      return node
    })
    if (panners.length === 1) {
      at.connect(panners[0]!)
      return panners[0]!
    }
    const both = new GainNode(this.ctx, { channelCount: 2, channelCountMode: 'explicit' })
    const [sides, out] = [this.ctx.createChannelSplitter(2), this.ctx.createGain()]
    at.connect(both).connect(sides)
    panners.forEach((panner, side) => {
      sides.connect(panner, side)
      panner.connect(out)
    })
    return out
  }

  /** A send to a bus, which is further down. */
  send(i: number, bus: Strip): void {
    const { line } = this.feeding(i, bus)
    this.lines.push({ line, of: (c) => c.sends[i]?.gain })
    this.gains.set(this.channel.sends[i]!.gain.parameter, line)
  }
  /** What feeds a bus, with its line; whoever asks for it lets it follow. */
  feeding(i: number, bus: Strip): { line: Line; node: GainNode } {
    const node = this.ctx.createGain()
    const line = new Line(node.gain, this.channel.sends[i]!.gain)
    this.output.connect(node).connect(bus.input)
    return { line, node }
  }

  begin(leg: Leg): void {
    for (const { line } of this.lines) line.begin(leg)
  }
  until(leg: Leg, from: number, moment: number): void {
    for (const { line } of this.lines) line.until(moment)
    for (const piece of this.channel.pieces) this.sound(piece, leg, from, moment)
  }
  change(channel: ChannelOut, leg: Leg, moment: number): void {
    for (const { line, of } of this.lines) {
      const ramps = of(channel)
      if (ramps && ramps !== of(this.channel)) line.change(ramps, leg, moment)
    }
    if (JSON.stringify(channel.pieces) !== JSON.stringify(this.channel.pieces)) this.silence(clockAt(leg, moment))
    this.channel = channel
  }
  /** Put what of a piece begins before a moment onto the clock, chunk by chunk; what is not here yet joins when it comes. */
  private sound(piece: PieceOut, leg: Leg, from: number, moment: number): void {
    const a = Math.max(piece.start, leg.from)
    const b = Math.min(piece.start + piece.length, leg.to)
    if (a >= b || a > moment + AHEAD || b < from) return
    const take = (seconds: number) => Math.round((piece.offset + seconds - piece.start) * RATE)
    const [first, last] = [take(a), take(b)]
    const clock = Math.round(clockAt(leg, a) * RATE)
    for (let n = Math.floor(first / FRAMES_OF_CHUNK); n * FRAMES_OF_CHUNK < last; n++) {
      const [start, end] = [Math.max(first, n * FRAMES_OF_CHUNK), Math.min(last, (n + 1) * FRAMES_OF_CHUNK)]
      const seconds = a + (start - first) / RATE
      if (seconds > moment + AHEAD) break
      if (seconds + (end - start) / RATE < from) continue
      if (seconds > moment) {
        void this.takes.of(piece.key, n) // it will be needed soon
        continue
      }
      const name = `${leg.at} ${piece.key} ${piece.start} ${n}`
      if (this.begun.has(name)) continue
      this.begun.add(name)
      const when = (clock + start - first) / RATE
      const at = (start - n * FRAMES_OF_CHUNK) / RATE
      const put = (buffer: AudioBuffer | null) => {
        if (buffer && this.begun.has(name)) this.put(buffer, piece, leg, when, at, (end - start) / RATE)
      }
      const ready = this.takes.ready(piece.key, n)
      if (ready) put(ready)
      else void this.takes.of(piece.key, n).then(put)
    }
  }

  private put(buffer: AudioBuffer, piece: PieceOut, leg: Leg, when: number, at: number, length: number): void {
    const { currentTime } = this.ctx
    const late = when < currentTime ? currentTime + 0.002 - when : 0
    if (late >= length) return
    const source = new AudioBufferSourceNode(this.ctx, { buffer })
    let out: AudioNode = this.input
    if (piece.fades) {
      const fade = this.ctx.createGain()
      this.faded(fade.gain, piece, leg)
      fade.connect(this.input)
      out = fade
    }
    source.connect(out)
    source.start(when + late, at + late, length - late)
    this.takes.hold(buffer)
    this.playing.set(source, () => {
      this.playing.delete(source)
      source.onended = null
      source.disconnect()
      if (out !== this.input) out.disconnect()
      this.takes.letGo(buffer)
    })
    source.onended = this.playing.get(source)!
  }

  /** A region's sound comes and goes within 5 ms. */
  private faded(param: AudioParam, piece: PieceOut, leg: Leg): void {
    const fade = Math.min(FADE, piece.length / 2)
    const at = (seconds: number) => Math.max(clockAt(leg, seconds), 0)
    const end = piece.start + piece.length
    if (leg.from < piece.start + fade) {
      param.setValueAtTime(Math.max((leg.from - piece.start) / fade, 0), at(Math.max(piece.start, leg.from)))
      param.linearRampToValueAtTime(1, at(piece.start + fade))
    }
    param.setValueAtTime(1, at(Math.max(end - fade, leg.from)))
    param.linearRampToValueAtTime(0, at(end))
  }

  /** Stop every source at a time of the clock. */
  silence(when: number): void {
    for (const source of this.playing.keys()) source.stop(Math.max(when, this.ctx.currentTime))
    this.begun.clear()
  }
  close(): void {
    this.silence(0)
    this.input.disconnect()
    this.output.disconnect()
    for (const done of [...this.playing.values()]) done() // what is cut off is never told that it has ended
    for (const { output } of this.passed) output.disconnect()
  }
}

/** Two ears: what goes out on each side, to be looked at. */
export function metersOf(ctx: BaseAudioContext, node: AudioNode): AnalyserNode[] {
  const both = new GainNode(ctx, { channelCount: 2, channelCountMode: 'explicit' })
  const sides = ctx.createChannelSplitter(2)
  node.connect(both).connect(sides)
  return [0, 1].map((side) => {
    const meter = new AnalyserNode(ctx, { fftSize: METER_FRAMES })
    sides.connect(meter, side)
    return meter
  })
}

/** What a strip of another graph sends to a bus of this one. */
interface Lent {
  strip: Strip
  i: number
  line: Line
  node: GainNode
}

/** Let go of a node that another stands on; the graph it belongs to may have let go of it already. */
function loosen(one: AudioNode, from: AudioNode): void {
  try {
    one.disconnect(from)
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'InvalidAccessError')) throw error
  }
}

/**
 * A score, playing. One that has only the channels which differ from another's plays the rest of that one's as its own: what
 * is the same sounds once.
 */
export class Graph {
  readonly master: GainNode
  readonly strips = new Map<string, Strip>()
  readonly form: string
  private leg: Leg | null = null
  private done = 0
  private readonly shared: Strip[] = []
  private readonly lent: Lent[] = []

  constructor(
    readonly ctx: BaseAudioContext,
    public score: ScoreOut,
    takes: Takes,
    base?: Graph,
  ) {
    this.form = formOf(score)
    this.master = ctx.createGain()
    for (const channel of score.channels) {
      const strip = new Strip(ctx, channel, takes)
      strip.output.connect(this.master)
      this.strips.set(channel.id, strip)
    }
    for (const channel of score.channels)
      channel.sends.forEach((send, i) => {
        const bus = this.strips.get(send.bus)
        if (bus) this.strips.get(channel.id)!.send(i, bus)
      })
    for (const [id, strip] of base?.strips ?? []) {
      if (this.strips.has(id)) continue
      this.shared.push(strip)
      strip.output.connect(this.master)
      strip.channel.sends.forEach((send, i) => {
        const bus = this.strips.get(send.bus)
        if (bus) this.lent.push({ strip, i, ...strip.feeding(i, bus) })
      })
    }
  }

  /** Go on with a leg from its beginning. */
  begin(leg: Leg): void {
    this.leg = leg
    this.done = leg.from
    for (const strip of this.strips.values()) strip.begin(leg)
    for (const { line } of this.lent) line.begin(leg)
  }
  /** Have everything on the clock that happens up to a moment of the leg. */
  until(moment: number): void {
    const { leg } = this
    if (!leg) return
    for (const strip of this.strips.values()) strip.until(leg, this.done, moment)
    for (const { line } of this.lent) line.until(moment)
    this.done = moment
  }
  /** Play another score of the same form from a moment on. */
  change(score: ScoreOut, moment: number): void {
    if (!this.leg) return
    const channels = new Map(score.channels.map((c) => [c.id, c]))
    for (const [id, strip] of this.strips) strip.change(channels.get(id)!, this.leg, moment)
    for (const { strip, i, line } of this.lent) line.change(strip.channel.sends[i]!.gain, this.leg, moment)
    this.score = score
    this.done = moment
  }
  silence(when: number): void {
    for (const strip of this.strips.values()) strip.silence(when)
  }
  close(): void {
    for (const strip of this.strips.values()) strip.close()
    for (const strip of this.shared) loosen(strip.output, this.master)
    for (const { strip, node } of this.lent) {
      loosen(strip.output, node)
      node.disconnect()
    }
    this.master.disconnect()
  }
}
