// Hands on controls: what each does, noted as it is done, and heard at once.
import { triggerRef, watch } from 'vue'
import { forgetSince, note, noHand, noteMove } from '../../lib/hands'
import { useListening } from '../listening'
import type { Controls } from './controls'
import type { Doing } from './live'
import { WRITING, type Mode } from './pass'
import type { Standing } from './standing'
import { useTransport } from './transport'

/** After so long without a move a hand stood still, and began to move again this long before the next one; ms. */
const [PAUSE, BEGINS] = [200, 80]

export type Grips = ReturnType<typeof useGrips>

export function useGrips(
  { parameterOf, modeOf, trims, shows }: Controls,
  { grips, live }: Doing,
  { controls, at, sampled, valueOf, seenAt }: Standing,
) {
  const transport = useTransport()
  const listening = useListening()

  /** The beat of an event on the page: it may be seen to some time after it happened. */
  const beatOf = (event: Pick<Event, 'timeStamp'>) => transport.now(performance.now() - event.timeStamp)

  /** Note what a hand does at a beat; `since` is where it began to move again, if it had stood still. */
  function log(id: string, what: 'touch' | 'move' | 'release', value: number | null, when: number, since: number | null): void {
    const now = live.value
    if (!now || !WRITING.includes(modeOf(id) as Mode)) return
    const beat = Math.max(when, now.start)
    const hand = now.hands.get(id) ?? noHand()
    now.hands.set(id, hand)
    const seen = seenAt(id, value ?? valueOf(id, beat), beat)
    if (what === 'move') noteMove(hand, beat, since, value!, seen)
    else note(hand, beat, what, value, seen)
  }
  /**
   * Take hold of a control, where it stands at that moment (the screen may be behind) or at a value. Returns how to give
   * it up: then the press never was.
   */
  function grab(id: string, value: number | undefined, when: number): () => void {
    const grip = grips.value.get(id)
    const [pass, noted] = [live.value, live.value?.hands.get(id)?.at.length ?? 0]
    const stood = grip?.value
    const stands = value ?? valueOf(id, when)
    log(id, 'touch', value ?? (grip?.hands ? grip.value : trims(id) ? stands : null), when, null)
    grips.value.set(id, { hands: (grip?.hands ?? 0) + 1, value: stands, moved: when })
    triggerRef(grips)
    return () => ungrab(id, stood, live.value === pass ? noted : 0)
  }
  /** Do something now, or as soon as it is known where a control stands; returns how not to. */
  function whenKnown(id: string, work: () => void): () => void {
    if (controls.value.has(id)) {
      work()
      return () => undefined
    }
    const stop = watch(controls, (now) => {
      if (!now.has(id)) return
      stop()
      work()
    })
    return stop
  }
  /** Take a hand off as if it had never come: the control stands where it did, and what was noted since is forgotten. */
  function ungrab(id: string, stood: number | undefined, noted: number): void {
    const grip = grips.value.get(id)
    if (!grip?.hands) return
    if (grip.hands === 1) forgetSince(live.value?.hands, id, noted)
    if (grip.hands === 1 && stood === undefined) grips.value.delete(id)
    else grips.value.set(id, { ...grip, hands: grip.hands - 1, value: stood ?? grip.value })
    triggerRef(grips)
  }
  /** Move it; `straight` where nothing is known of a hand that stood still in between. */
  function move(id: string, value: number, when: number, straight = false): void {
    const grip = grips.value.get(id)
    if (!grip?.hands || (grip.value === value && !straight)) return
    const begins = transport.before(when, BEGINS)
    const stood = !straight && transport.before(when, PAUSE) > grip.moved
    log(id, 'move', value, when, stood ? begins : null)
    grip.value = value
    grip.moved = when
    triggerRef(grips)
  }
  function letGo(id: string, when = transport.now()): void {
    const grip = grips.value.get(id)
    if (!grip?.hands) return
    log(id, 'release', null, when, null)
    grip.hands -= 1
    triggerRef(grips)
  }
  const held = (id: string) => !!grips.value.get(id)?.hands
  /** What is in a hand is heard at once; let go in touch, the lane is heard again. */
  let inHands = new Set<string>()
  watch(
    grips,
    (now) => {
      const still = new Set([...now].filter(([, grip]) => grip.hands).map(([id]) => id))
      for (const id of still) {
        const control = controls.value.get(id)
        const adds = shows.value === 'own' && control?.adds.length ? sampled(control.adds, parameterOf(id), at.value) : 0
        listening.hand(id, seenAt(id, now.get(id)!.value, at.value), adds)
      }
      if ([...inHands].some((id) => !still.has(id) && modeOf(id) === 'touch')) listening.letGo()
      inHands = still
      transport.ridden = still.size > 0
    },
    { flush: 'sync' },
  )

  return { beatOf, log, grab, whenKnown, move, letGo, held }
}
