// A real controller, where the browser offers MIDI input: a control is learnt by moving it, and takes over where it meets.
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { fromAxis, toAxis } from '../../lib/geometry'
import { useSession } from '../session'
import { useRiding } from './riding'

const CONTROL_CHANGE = 0xb0
/** After so many ms without a move a hand has let go: these controls do not say when they are touched. */
const STILL = 500
const MOST = 127
const STORED = 'velmot.controller'

/** What of MIDI access is used, so that tests can stand in for it. */
interface Message {
  data: Uint8Array | null
  timeStamp: number
}
interface Input {
  onmidimessage: ((event: Message) => void) | null
}
interface Access {
  inputs: { forEach: (each: (input: Input) => void) => void }
  onstatechange: (() => void) | null
}
type Asks = { requestMIDIAccess?: () => Promise<Access> }

export const useController = defineStore('controller', () => {
  const session = useSession()
  const riding = useRiding()
  const offered = 'requestMIDIAccess' in navigator
  const on = ref(false)
  const problem = ref('')
  /** The control that the next knob to be moved is to ride. */
  const learning = ref<string | null>(null)
  /** Knob (channel and number) → parameter. */
  const knobs = ref<Record<string, string>>(read())
  const met = new Map<string, { taken: boolean; last: number | null; timer: number }>()

  function read(): Record<string, string> {
    try {
      const found: unknown = JSON.parse(localStorage.getItem(STORED) ?? '{}')
      return found && typeof found === 'object' ? (found as Record<string, string>) : {}
    } catch {
      return {}
    }
  }
  async function start(): Promise<void> {
    try {
      const access = await (navigator as unknown as Asks).requestMIDIAccess!()
      const listen = () => access.inputs.forEach((input) => (input.onmidimessage = hear))
      access.onstatechange = listen
      listen()
      on.value = true
      problem.value = ''
    } catch {
      problem.value = 'The browser lets no controller be used here'
    }
  }
  function hear(event: Message): void {
    const [status = 0, number = 0, value = 0] = event.data ?? []
    if ((status & 0xf0) !== CONTROL_CHANGE) return
    const knob = `${(status & 0x0f) + 1}/${number}`
    if (learning.value) learn(knob, learning.value)
    const id = knobs.value[knob]
    if (id && riding.known.includes(id)) turn(knob, id, value / MOST, event)
  }
  function learn(knob: string, id: string): void {
    const others = Object.entries(knobs.value).filter(([, parameter]) => parameter !== id)
    knobs.value = { ...Object.fromEntries(others), [knob]: id }
    localStorage.setItem(STORED, JSON.stringify(knobs.value))
    learning.value = null
    met.delete(knob)
  }
  /** Move a control to a part of its range, once the knob has met it or gone past it; the page may hear of it late. */
  function turn(knob: string, id: string, part: number, event: Message): void {
    const p = session.parameters.get(id)!.parameter
    const [low, high] = [toAxis(p, p.low), toAxis(p, p.high)]
    const y = low + part * (high - low)
    const state = met.get(knob) ?? { taken: false, last: null, timer: 0 }
    met.set(knob, state)
    // A trim stands in the middle of its knob.
    const middle = riding.trims(id) ? (low + high) / 2 : 0
    const when = riding.beatOf(event)
    const standing = riding.valueOf(id, when)
    const stands = riding.trims(id) ? middle + standing : toAxis(p, standing)
    const near = (high - low) / MOST
    const passed = state.last !== null && (state.last - stands) * (y - stands) <= 0
    state.last = y
    if (!state.taken && !passed && Math.abs(y - stands) > near) return
    const value = riding.trims(id) ? y - middle : fromAxis(p, y)
    window.clearTimeout(state.timer)
    if (!state.taken) riding.grab(id, value, when)
    state.taken = true
    riding.move(id, value, when)
    state.timer = window.setTimeout(() => {
      state.taken = false
      riding.letGo(id, riding.beatOf({ timeStamp: event.timeStamp + STILL }))
    }, STILL)
  }
  const knobOf = (id: string) => Object.keys(knobs.value).find((knob) => knobs.value[knob] === id)

  return { offered, on, problem, learning, start, knobOf }
})
