// Time that runs: from the cursor, by the session's tempo map, round the range or on to the session's end.
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { useBench } from '../state/bench'
import { useSelection, type Range } from '../state/selection'
import { useSession } from '../state/session'
import { beatAfter, secondsAt } from './clock'

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
/** Beats that time may seem to step back by without having gone round. */
const BACK = 0.05

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

  /** Where the sound of it is, in the session's seconds, while there is one: time goes with its sound, not beside it. */
  let sound: () => number | null = () => null
  /** What has to be there before time runs: its sound, if that comes soon. */
  let prepare: (beat: number) => Promise<void> = () => Promise.resolve()
  const preparing = ref(false)
  let starts = 0
  function listenTo(heard: typeof sound, first: typeof prepare): void {
    sound = heard
    prepare = first
  }
  /** Where time is at this very moment, or was some milliseconds ago. */
  function now(ago = 0): number {
    const heard = running.value ? sound() : null
    if (heard !== null) {
      from = heard
      started = performance.now()
    }
    return beatAfter(clock(), from + (performance.now() - ago - started) / 1000)
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
  function set(out: number): void {
    started = performance.now()
    from = secondsAt(clock(), out)
  }
  function play(): void {
    if (running.value || preparing.value || !session.data) return
    const inside = !round.value || (bench.cursor >= round.value.start && bench.cursor < round.value.end)
    const out = inside && bench.cursor < end() ? bench.cursor : (round.value?.start ?? 0)
    const mine = ++starts
    preparing.value = true
    void prepare(out).then(() => {
      if (mine !== starts) return
      preparing.value = false
      set(out)
      beat.value = out
      tell('start', out)
      frame = requestAnimationFrame(tick)
    })
  }
  function tick(): void {
    let at = now()
    const wrapped = !!round.value && beat.value !== null && at < beat.value - BACK
    if (at >= end() || wrapped) {
      if (!round.value) return stop(end())
      tell('end', round.value.end)
      if (!wrapped) {
        at = round.value.start
        if (sound() === null) set(at)
      }
      tell('start', round.value.start)
    }
    beat.value = at
    tell('frame', at)
    if (following.value) turnPage(at)
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
    ...{ beat, running, preparing, looping, following, tooShort, round, jumped },
    ...{ now, before, play, stop, toggle, toStart, goTo, join, listenTo },
  }
})
