// Player: what is there now and what would come, side by side on one audio clock; one of the two is heard.
import type { Schemas } from '../api/types'
import { formOf, Graph, metersOf } from './graph'
import type { Leg } from './lines'
import { RATE, Takes } from './takes'

type ScoreOut = Schemas['ScoreOut']
export type Side = 'now' | 'applied'

const LOOK = 0.25 // seconds that are on the clock before they are heard
const LOOK_HIDDEN = 2.5 // as timers come seldom in a window that nobody sees
const EVERY = 50 // ms
const SWAP = 0.01 // seconds in which one goes over to the other
const SOON = 0.03
const EARLY = 8 // seconds before the end of a score at which the next one is asked for
const END = 0.001 // seconds that two ends may differ by, as one is a whole tick

export class Player {
  readonly ctx: AudioContext
  readonly takes: Takes
  readonly meters: AnalyserNode[]
  private readonly volume: GainNode
  private graphs: Partial<Record<Side, Graph>> = {}
  private legs: Leg[] = []
  private round: { from: number; to: number } | null = null
  private timer = 0
  private side: Side = 'now'
  private lower: Record<Side, number> = { now: 1, applied: 1 }
  private audible: (channel: string) => boolean = () => true

  constructor(
    session: number,
    /** Told when what is played next is not in the score. */
    private readonly wantsMore: () => void,
  ) {
    this.ctx = new AudioContext({ sampleRate: RATE, latencyHint: 'interactive' })
    this.takes = new Takes(session)
    this.volume = this.ctx.createGain()
    this.volume.connect(this.ctx.destination)
    this.meters = metersOf(this.ctx, this.volume)
  }

  /** Begin at a place: as soon as the clock allows. */
  start(
    scores: { now: ScoreOut; applied: ScoreOut | null },
    from: number,
    to: number,
    round: { from: number; to: number } | null,
    /** Whether time runs already, and is at `from` at this moment. */
    joins: boolean,
  ): void {
    this.clear()
    const { ctx } = this
    this.round = round
    const now = this.graph(scores.now)
    this.graphs = { now, ...(scores.applied ? { applied: this.graph(scores.applied, now) } : {}) }
    const at = Math.ceil((ctx.currentTime + SOON) * RATE) / RATE
    this.volume.gain.cancelScheduledValues(0)
    this.volume.gain.setValueAtTime(1, ctx.currentTime)
    const first = joins ? from + (at - this.heardNow) : from
    this.legs = [{ from: first, to: round?.to ?? to, at }]
    for (const graph of this.all) graph.begin(this.legs[0]!)
    this.level(0)
    this.listen(this.audible)
    this.tick()
    this.timer = window.setInterval(() => this.tick(), EVERY)
  }

  /** Where in the session what is heard at this very moment stands, in seconds; before it has begun, as far before that. */
  position(): number | null {
    const heard = this.heardNow
    const leg = [...this.legs].reverse().find((one) => one.at <= heard) ?? this.legs[0]
    return leg ? Math.min(leg.from + (heard - leg.at), leg.to) : null
  }
  /** By the audio clock, what comes out of the machine at this moment. */
  private get heardNow(): number {
    return this.ctx.currentTime - (this.ctx.outputLatency || 0)
  }

  /** Let go of everything; nothing rings on. */
  stop(): void {
    const { gain } = this.volume
    const now = this.ctx.currentTime
    gain.cancelScheduledValues(now)
    gain.setTargetAtTime(0, now, 0.006)
    window.clearInterval(this.timer)
    const old = this.all
    this.graphs = {}
    this.legs = []
    for (const graph of old) graph.silence(now + 0.04)
    window.setTimeout(() => old.forEach((graph) => graph.close()), 80)
  }

  get playing(): boolean {
    return this.legs.length > 0
  }
  get score(): ScoreOut | null {
    return this.graphs.now?.score ?? null
  }

  /** Hear the other one: within 10 ms, without a click, at the same place. */
  swap(side: Side): void {
    this.side = side
    this.level(SWAP)
  }
  /** Lower each by a factor, so that both are equally loud. */
  even(lower: Record<Side, number>): void {
    this.lower = lower
    this.level(0.05)
  }
  /** Which channels are heard. */
  listen(audible: (channel: string) => boolean): void {
    this.audible = audible
    for (const graph of this.all)
      for (const [id, strip] of graph.strips)
        strip.listened.gain.setTargetAtTime(audible(id) ? 1 : 0, this.ctx.currentTime, 0.004)
  }
  /** A hand on a control: heard at once. */
  hold(parameter: string, value: number): void {
    for (const graph of this.all)
      for (const strip of graph.strips.values()) strip.gains.get(parameter)?.hold(value, this.ctx.currentTime)
  }
  metersOf(channel: string): AnalyserNode[] | undefined {
    const strip = this.graphs[this.side]?.strips.get(channel) ?? this.graphs.now?.strips.get(channel)
    return strip?.meters
  }

  /** Another score for a side from now on; no score, and that side is gone. */
  change(side: Side, score: ScoreOut | null): void {
    const graph = this.graphs[side]
    if (!this.playing || (!score && !graph)) return
    const place = (this.position() ?? 0) + SOON
    // What stands on another graph goes with it.
    if (side === 'now' && score && graph?.form !== formOf(score)) this.change('applied', null)
    if (score && graph?.form === formOf(score)) {
      graph.change(score, Math.max(place, this.legs.at(-1)!.from))
      return
    }
    const leg = this.legs.at(-1)!
    delete this.graphs[side]
    if (score) {
      const fresh = (this.graphs[side] = this.graph(score, side === 'applied' ? this.graphs.now : undefined))
      const begins = Math.max(place, leg.from)
      fresh.begin({ from: begins, to: leg.to, at: leg.at + (begins - leg.from) })
    }
    if (graph) {
      graph.master.gain.setTargetAtTime(0, this.ctx.currentTime + SOON, 0.004)
      window.setTimeout(() => graph.close(), 120)
    }
    this.level(SWAP)
    this.listen(this.audible)
  }
  private get all(): Graph[] {
    return Object.values(this.graphs)
  }
  private graph(score: ScoreOut, base?: Graph): Graph {
    const graph = new Graph(this.ctx, score, this.takes, base)
    graph.master.gain.value = 0
    graph.master.connect(this.volume)
    return graph
  }
  private level(over: number): void {
    const heard = this.graphs[this.side] ? this.side : 'now'
    for (const side of ['now', 'applied'] as const) {
      const gain = this.graphs[side]?.master.gain
      if (!gain) continue
      const now = this.ctx.currentTime
      gain.cancelAndHoldAtTime(now)
      gain.linearRampToValueAtTime(side === heard ? this.lower[side] : 0, now + over)
    }
  }
  private tick(): void {
    const look = document.hidden ? LOOK_HIDDEN : LOOK
    const horizon = this.ctx.currentTime + look
    for (let turns = 0; turns < 64; turns++) {
      const leg = this.legs.at(-1)!
      const moment = leg.from + (horizon - leg.at)
      const { start, end } = this.graphs.now!.score
      for (const graph of this.all) graph.until(Math.min(moment, leg.to))
      if ((moment > end - EARLY && end < leg.to - END) || moment < start - END) this.wantsMore()
      if (moment < leg.to || !this.round) return
      const next = { ...this.round, at: leg.at + (leg.to - leg.from) }
      this.legs = [...this.legs.slice(-3), next]
      for (const graph of this.all) graph.begin(next)
    }
  }
  private clear(): void {
    window.clearInterval(this.timer)
    for (const graph of this.all) graph.close()
    this.graphs = {}
    this.legs = []
  }
}
