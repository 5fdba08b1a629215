// Time that runs: from the cursor, by the session's tempo map, round the range or on to the session's end.
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { useBench } from '../bench'
import { useSelection, type Range } from '../selection'
import { useSession } from '../session'
import { beatAfter, secondsAt } from '../../lib/clock'

/** What goes along with time: told where it starts, at every frame, and where it ends; round and round, every time. */
export interface Passenger {
  start: (beat: number) => void
  frame: (beat: number) => void
  end: (beat: number) => void
}

/** The shortest range that is gone round, in seconds. */
export const SHORTEST_ROUND = 0.5

/** How much of the window a new page shows again of the one before. */
const OVERLAP = 0.06

/** How the sound of time that runs is asked where it is, in the session's seconds; nothing without one. */
export interface Sound {
  /** Where time waits for its sound. */
  waits: () => number | null
  /** What of it is heard at this moment. */
  place: () => number | null
  /** Have it begin at a beat; done when it has, or would take too long. */
  prepare: (beat: number) => Promise<void>
  /** Have it begin anew where time is. */
  rejoin: () => void
}
const SILENT: Sound = { waits: () => null, place: () => null, prepare: () => Promise.resolve(), rejoin: () => undefined }
/** By how much time goes faster or slower to be where its sound is: too little to bend what hands do. */
const NEARER = 0.001
const NEARER_FIRST = 0.1 // while both have only just begun
const FIRST = 0.4 // seconds
/** Seconds from which on sound was held up, and has to come to where time is; and between two such. */
const APART = 0.3
const ANEW = 3

export const useTransport = defineStore('transport', () => {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  /** Where time is, while it runs. */
  const beat = computed({ get: () => bench.playhead, set: (at) => (bench.playhead = at) })
  const running = computed(() => beat.value !== null)
  const looping = ref(true)
  const following = ref(true)
  const passengers = new Set<Passenger>()
  let started = 0 // when the round began, by the page's clock, and in the session's seconds
  let from = 0
  let least = 0 // seconds before which time is not, while its sound is only about to come
  let began = 0 // when it began by the page's clock
  let looked = 0 // when it was last seen where its sound is
  let frame = 0
  /** How often time was sent elsewhere while it ran. */
  const jumped = ref(0)

  /** Whether the range is too short to be gone round: nobody could ride it. */
  const tooShort = computed(() => {
    const range = selection.range
    return !!range && secondsAt(clock(), range.end) - secondsAt(clock(), range.start) < SHORTEST_ROUND
  })
  /** What is gone round: the range, if rounds are wanted and there is one that is long enough. */
  const round = computed<Range | null>(() => (looping.value && selection.range && !tooShort.value ? selection.range : null))
  const end = () => round.value?.end ?? bench.length
  const clock = () => session.data?.clock ?? []

  let sound = SILENT
  const preparing = ref(false)
  /** Whether hands are on controls: then time runs evenly, whatever its sound does. */
  const ridden = ref(false)
  let starts = 0
  const listenTo = (one: Sound) => (sound = one)
  /** Where time is at this very moment, or was some milliseconds ago. */
  function now(ago = 0): number {
    const waits = running.value ? sound.waits() : null
    if (waits !== null) anchor(waits)
    return beatAfter(clock(), Math.max(from + (performance.now() - ago - started) / 1000, least))
  }
  /** Time goes by the page's clock, which is even; slowly it comes to where its sound is, so that it goes with it, not beside it. */
  function goWithSound(at: number): void {
    const [heard, page] = [sound.place(), performance.now()]
    const since = (page - looked) / 1000
    looked = page
    if (heard === null) return
    const off = heard - secondsAt(clock(), at)
    const around = round.value ? secondsAt(clock(), round.value.end) - secondsAt(clock(), round.value.start) : Infinity
    if (Math.abs(off) > around / 2) return // one of the two has gone round already
    const first = page - began < FIRST * 1000 && !ridden.value
    if (Math.abs(off) < APART || first) {
      const most = (first ? NEARER_FIRST : NEARER) * since
      from += Math.min(Math.max(off, -most), most)
    } else if (page - began > ANEW * 1000) {
      began = page
      sound.rejoin()
    }
  }
  /** The beat some milliseconds before another one. */
  function before(at: number, ms: number): number {
    return beatAfter(clock(), secondsAt(clock(), at) - ms / 1000)
  }
  /** Those who came last are told first of an end, as their hands are on what the others hold. */
  function tell(what: keyof Passenger, beat: number): void {
    const all = [...passengers]
    for (const one of what === 'end' ? all.reverse() : all) one[what](beat)
  }
  function anchor(seconds: number): void {
    started = performance.now()
    from = seconds
  }
  function set(out: number): void {
    least = secondsAt(clock(), out)
    anchor(least)
    began = looked = performance.now()
  }
  function play(): void {
    if (running.value || preparing.value || !session.data) return
    const inside = !round.value || (bench.cursor >= round.value.start && bench.cursor < round.value.end)
    const out = inside && bench.cursor < end() ? bench.cursor : (round.value?.start ?? 0)
    const mine = ++starts
    preparing.value = true
    void sound.prepare(out).then(() => {
      if (mine !== starts) return
      preparing.value = false
      set(out)
      const heard = sound.place()
      if (heard !== null && Math.abs(heard - from) < APART) anchor(heard)
      beat.value = out
      tell('start', out)
      frame = requestAnimationFrame(tick)
    })
  }
  function tick(): void {
    let at = now()
    if (at >= end()) {
      if (!round.value) return stop(end())
      tell('end', round.value.end)
      least = secondsAt(clock(), round.value.start)
      anchor(least + Math.max(secondsAt(clock(), at) - secondsAt(clock(), round.value.end), 0))
      at = now()
      tell('start', round.value.start)
    }
    beat.value = at
    tell('frame', at)
    if (following.value) turnPage(at)
    goWithSound(at)
    frame = requestAnimationFrame(tick)
  }
  /** Turn to the window that time has come to. */
  function turnPage(at: number): void {
    const { start, end } = bench.view
    if (at >= start && at <= end) return
    const width = end - start
    bench.show({ start: at - width * OVERLAP, end: at + width * (1 - OVERLAP) })
  }
  /** Stop where time is; the cursor stays there. */
  function stop(at = now()): void {
    starts++
    preparing.value = false
    if (!running.value) return
    cancelAnimationFrame(frame)
    beat.value = null
    bench.cursor = Math.min(Math.max(at, 0), bench.length)
    tell('end', bench.cursor)
  }
  /** Go on from another place while time runs, or put the cursor there. */
  function goTo(at: number): void {
    if (!running.value) {
      bench.cursor = at
      return
    }
    tell('end', now())
    set(at)
    beat.value = at
    jumped.value++
    tell('start', at)
  }
  const toggle = () => (running.value || preparing.value ? stop() : play())
  /** Back to where a round, or the session, starts; time goes on from there if it runs. */
  function toStart(): void {
    const was = running.value || preparing.value
    stop()
    bench.cursor = round.value?.start ?? 0
    if (bench.cursor < bench.view.start || bench.cursor > bench.view.end) turnPage(bench.cursor)
    if (was) play()
  }
  function join(passenger: Passenger): () => void {
    passengers.add(passenger)
    return () => passengers.delete(passenger)
  }
  watch(
    () => session.data?.id,
    () => stop(),
  )

  return {
    ...{ beat, running, preparing, ridden, looping, following, tooShort, round, jumped },
    ...{ now, before, play, stop, toggle, toStart, goTo, join, listenTo },
  }
})
