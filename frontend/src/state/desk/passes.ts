// Passes: begun and ended with time, asked for as one request, shaped afterwards, thrown away or ridden again.
import { computed, triggerRef, watch } from 'vue'
import { noHand, until, type Hand } from '../../lib/hands'
import { useBench } from '../bench'
import type { Controls } from './controls'
import type { Grips } from './grips'
import { AS_RIDDEN, type Doing, type Shaping } from './live'
import type { Mode, Pass, Ridden, Ride } from './pass'
import { ridden as drawn } from './ridden'
import type { Standing } from './standing'
import { useTransport } from './transport'

export type Passes = ReturnType<typeof usePasses>

/** `isOpen` says whether the desk is on screen: only then does time that runs make passes. */
export function usePasses(
  { known, settingOf, modeOf, trims, shows }: Controls,
  { grips, live, passes }: Doing,
  { span }: Standing,
  { log }: Grips,
  asRequest: (some: Pass[]) => Ride,
  isOpen: () => boolean,
) {
  const bench = useBench()
  const transport = useTransport()
  /** Told when there is another pass, or the one that runs goes on. */
  let changed: (runs?: boolean) => void = () => undefined
  const whenChanged = (work: typeof changed) => (changed = work)

  function begin(beat: number): void {
    if (!isOpen()) return
    live.value = { start: beat, hands: new Map(), asked: AS_RIDDEN }
    for (const [id, grip] of grips.value) {
      grip.moved = beat
      if (grip.hands) log(id, 'touch', grip.value, beat, null)
    }
  }
  function finish(end: number): void {
    const made = asPass(end)
    live.value = null
    for (const [id, grip] of grips.value) if (!grip.hands) grips.value.delete(id)
    if (!made) return
    passes.value = [...passes.value, made]
    changed()
  }
  /** What was ridden in this pass up to a beat; nothing where no hand was on anything, and nothing writes by itself. */
  function asPass(end: number): Pass | null {
    const now = live.value
    if (!now || end <= now.start) return null
    const ridden = known.value.filter((id) => now.hands.has(id) || modeOf(id) === 'write')
    const controls = ridden.map<Ridden>((id) => ({
      ...{ parameter: id, mode: modeOf(id) as Mode, trim: trims(id), shows: shows.value },
      ...now.asked,
      hand: until(now.hands.get(id) ?? noHand(), end),
    }))
    return controls.length ? { start: now.start, end, controls } : null
  }
  transport.join({
    start: begin,
    frame: () => {
      if (!live.value) return
      if (live.value.hands.size) publish()
      changed(true)
    },
    end: finish,
  })
  /** Before anything is ridden: what there is to say of the controls as they are set. */
  const readied = computed<Ride | null>(() => {
    if (!known.value.length || span.value.end <= span.value.start) return null
    const controls = known.value.map<Ridden>((id) => {
      const mode = settingOf(id).mode === 'write' ? 'latch' : settingOf(id).mode // which writes nothing by itself
      return { parameter: id, mode, trim: trims(id), shows: 'own', ...AS_RIDDEN, hand: noHand() }
    })
    return asRequest([{ ...span.value, controls }])
  })
  /** The pass that runs, once a hand was on something, else the last one: what is asked of it can be changed. */
  const shaped = computed<Shaping | null>(() => {
    void grips.value // hands come and go without another pass
    if (live.value?.hands.size) return live.value.asked
    return passes.value[passes.value.length - 1]?.controls[0] ?? null
  })
  /** Change how far its last value is spread, or from where its first is held. */
  function change(some: Partial<Shaping>): void {
    if (live.value?.hands.size) {
      live.value.asked = { ...live.value.asked, ...some }
      triggerRef(live)
      return
    }
    passes.value = passes.value.map((pass, n) =>
      n < passes.value.length - 1 ? pass : { ...pass, controls: pass.controls.map((c) => ({ ...c, ...some })) },
    )
    changed()
  }
  function throwAway(index: number): void {
    passes.value = passes.value.filter((_, n) => n !== index)
    changed()
  }
  /** The last pass once more, over the same range. */
  function again(): void {
    const last = passes.value[passes.value.length - 1]
    if (!last) return
    transport.stop()
    throwAway(passes.value.length - 1)
    bench.cursor = last.start
    transport.play()
  }
  /** Let strips draw what hands did: in every pass, and in the one that runs. */
  function publish(): void {
    const all = new Map<string, Hand[]>()
    const add = (id: string, hand: Hand) => all.set(id, [...(all.get(id) ?? []), hand])
    for (const pass of passes.value) for (const c of pass.controls) add(c.parameter, c.hand)
    for (const [id, hand] of live.value?.hands ?? []) add(id, hand)
    drawn.value = all
  }
  watch([passes, live], publish)

  return { asPass, readied, shaped, change, throwAway, again, whenChanged }
}
