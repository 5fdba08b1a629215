// The desk: which controls are on it and how each writes, the hands on them, and the passes ridden so far.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, triggerRef, watch } from 'vue'
import { api, asked, type ParameterOut } from '../../api/client'
import { fromAxis, toAxis } from '../../lib/geometry'
import { useAsking } from '../asking'
import { useBench } from '../bench'
import { usePreview } from '../preview'
import { useSelection } from '../selection'
import { useSession } from '../session'
import { forgetSince, note, noHand, noteMove, until, type Hand } from '../../lib/hands'
import { ridden } from './ridden'
import { forget, keep, leftUnder, startKeeping, type Left } from './kept'
import { useListening } from '../listening'
import { useTransport } from './transport'
import { WRITING, type Mode, type Pass, type Ridden, type Ride } from './pass'

type Shaping = Pick<Ridden, 'spread' | 'first_from'>
const AS_RIDDEN: Shaping = { spread: 'no', first_from: 'the touch' }
interface Setting {
  mode: Mode
  trim: boolean
}
/** A hand that is on a control, or was during this pass. */
interface Grip {
  hands: number
  value: number
  /** The beat at which it was moved last. */
  moved: number
}
interface Live {
  start: number
  hands: Map<string, Hand>
  /** What is asked of it while it runs. */
  asked: Shaping
}

const SAMPLES = 4000
const KEEP_EVERY = 300 // ms
/** After so long without a move a hand stood still, and began to move again this long before the next one; ms. */
const [PAUSE, BEGINS] = [200, 80]

export const useRiding = defineStore('riding', () => {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const preview = usePreview()
  const transport = useTransport()
  const listening = useListening()

  /** The controls on the desk, by parameter. */
  const columns = ref<string[]>([])
  /** Whether the desk is on screen: only then does time that runs make passes. */
  const open = ref(false)
  const settings = ref<Record<string, Setting>>({})
  const shows = ref<'own' | 'heard'>('own')
  const back = ref({ length: 1, text: '1 beat' })
  const bounds = ref<Record<string, number>>({})
  const lands = ref<Ride['lands']>('where it is heard')
  /** Controls that keys ride, all of them at once. */
  const inHand = ref<string[]>([])
  const grips = shallowRef(new Map<string, Grip>())
  const live = shallowRef<Live | null>(null)
  const passes = shallowRef<Pass[]>([])
  /** What was ridden before a page was left, to be taken up again or thrown away. */
  const left = shallowRef<Left | null>(null)
  const offered = computed(() => (left.value?.passes.length ? left.value.passes : null))

  // ── what is on the desk ────────────────────────────────────────────────────────────────────

  const known = computed(() => columns.value.filter((id) => session.parameters.has(id)))
  const parameterOf = (id: string): ParameterOut => session.parameters.get(id)!.parameter
  /** How a control writes: as its track does, or by touch where that only reads. */
  function settingOf(id: string): Setting {
    const mode = session.parameters.get(id)?.track.mode
    return settings.value[id] ?? { mode: mode === 'read' ? 'touch' : "the track's", trim: false }
  }
  function modeOf(id: string): string {
    const { mode } = settingOf(id)
    return mode === "the track's" ? (session.parameters.get(id)?.track.mode ?? 'read') : mode
  }
  const trims = (id: string) => settingOf(id).trim && parameterOf(id).kind === 'continuous'
  function set(id: string, some: Partial<Setting>): void {
    settings.value = { ...settings.value, [id]: { ...settingOf(id), ...some } }
  }
  function put(ids: string[]): void {
    columns.value = [...new Set([...columns.value, ...ids])]
  }
  function take(id: string): void {
    columns.value = columns.value.filter((x) => x !== id)
    inHand.value = inHand.value.filter((x) => x !== id)
  }
  /** A desk that is empty begins with what is chosen, else with what is pinned. */
  function fill(): void {
    if (known.value.length) return
    const chosen = selection.lanes.map((id) => session.lanes.get(id)?.parameter ?? '')
    put((chosen.length ? chosen : bench.pins).filter((id) => session.parameters.has(id)).slice(0, 8))
  }
  function toggleInHand(id: string): void {
    inHand.value = inHand.value.includes(id) ? inHand.value.filter((x) => x !== id) : [...inHand.value, id]
  }

  // ── what the controls show ─────────────────────────────────────────────────────────────────

  const request = computed<Ride | null>(() => (passes.value.length ? asRequest(passes.value) : null))
  const span = computed(() => transport.round ?? { start: 0, end: bench.length })
  const question = computed(() => {
    const now = session.data
    if (!now || !known.value.length) return null
    const body = { parameters: known.value, ...span.value, columns: SAMPLES, request: request.value }
    return { id: now.id, revision: now.revision, body }
  })
  const { answer: shown } = useAsking(
    () => question.value,
    ({ id, body }, signal) => asked(api.POST('/api/sessions/{id}/desk', { params: { path: { id } }, body, signal })),
    { keep: true },
  )
  /** That the disk is getting full, before anything is ridden on it. */
  const room = computed(() => shown.value?.room ?? '')
  const controls = computed(() => new Map((shown.value?.controls ?? []).map((c) => [c.parameter, c])))
  const at = computed(() => transport.beat ?? bench.cursor)

  /** The value between two that were asked for, as straight as its lane; named values hold. */
  function sampled(values: number[], p: ParameterOut, beat: number): number {
    const { start, step } = shown.value!
    const place = Math.min(Math.max((beat - start) / step, 0), values.length - 1)
    const [i, part] = [Math.floor(place), place - Math.floor(place)]
    const [one, other] = [values[i]!, values[Math.min(i + 1, values.length - 1)]!]
    if (p.kind !== 'continuous') return one
    return fromAxis(p, toAxis(p, one) + (toAxis(p, other) - toAxis(p, one)) * part)
  }
  /** What the lanes say at a beat, what groups add where that is shown. */
  function standing(id: string, beat: number): number {
    const control = controls.value.get(id)
    const p = parameterOf(id)
    if (!control) return p.value
    const own = sampled(control.own, p, beat)
    return shows.value === 'heard' && control.adds.length ? own + sampled(control.adds, p, beat) : own
  }
  /** Where a control stands: under the hand, where that left it, or where its lane is; a trim from 0 on. */
  function valueOf(id: string, beat = at.value): number {
    const grip = grips.value.get(id)
    const left = live.value?.hands.has(id) && modeOf(id) !== 'touch'
    if (grip && (grip.hands || left)) return grip.value
    return trims(id) ? 0 : standing(id, transport.running ? beat : at.value)
  }
  /** A control's place on its lane: of a trim what is there, and the change. */
  function seenAt(id: string, value: number, beat: number): number {
    const p = parameterOf(id)
    return trims(id) ? fromAxis(p, toAxis(p, standing(id, beat)) + value) : value
  }
  const drives = (id: string) => controls.value.get(id)?.drives.find((d) => at.value < d.end)?.words ?? ''

  // ── hands ──────────────────────────────────────────────────────────────────────────────────

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

  // ── passes ─────────────────────────────────────────────────────────────────────────────────

  function begin(beat: number): void {
    if (!open.value) return
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
    save()
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
  let lately = 0
  transport.join({
    start: begin,
    frame: () => {
      if (!live.value) return
      if (live.value.hands.size) publish()
      if (performance.now() - lately > KEEP_EVERY) save()
    },
    end: finish,
  })
  function asRequest(some: Pass[]): Ride {
    return {
      verb: 'ride',
      passes: some.map((pass) => ({
        ...pass,
        controls: pass.controls.map(({ hand: { at, does, value }, ...rest }) => ({ ...rest, hand: { at, does, value } })),
      })),
      return_over: back.value.length,
      within: Object.entries(bounds.value).map(([unit, amount]) => ({ unit, amount })),
      lands: lands.value,
      set_to_read: false,
    }
  }
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
    save()
  }
  function throwAway(index: number): void {
    passes.value = passes.value.filter((_, n) => n !== index)
    save()
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

  // ── kept until it is saved ─────────────────────────────────────────────────────────────────

  function save(): void {
    if (!left.value) return
    lately = performance.now()
    const going = asPass(transport.now())
    keep([...passes.value, ...(going ? [going] : [])])
  }
  window.addEventListener('pagehide', save)
  /** Look again at what is offered: two windows may have been offered the same. */
  function lookAgain(): void {
    if (left.value) left.value = leftUnder(left.value.names)
  }
  window.addEventListener('storage', ({ key }) => key && left.value?.names.includes(key) && lookAgain())
  watch(
    () => session.data?.id,
    (id) => {
      columns.value = []
      passes.value = []
      grips.value = new Map()
      live.value = null
      left.value = null
      if (id !== undefined) void startKeeping(id).then((found) => session.data?.id === id && (left.value = found))
    },
    { immediate: true },
  )
  function takeUp(): void {
    lookAgain()
    const found = offered.value?.filter((pass) => pass.controls.every((c) => session.parameters.has(c.parameter))) ?? []
    put(found.flatMap((pass) => pass.controls.map((c) => c.parameter)))
    passes.value = [...found, ...passes.value]
    save()
    turnDown()
  }
  function turnDown(): void {
    if (!left.value) return
    forget(left.value.names)
    left.value = { names: [], passes: [] }
  }
  // What was applied lies in the lanes now.
  watch(
    () => preview.spent,
    (now) => {
      if (now?.request.verb !== 'ride') return
      passes.value = []
      save()
    },
  )

  /** Let strips draw what hands did: in every pass, and in the one that runs. */
  function publish(): void {
    const all = new Map<string, Hand[]>()
    const add = (id: string, hand: Hand) => all.set(id, [...(all.get(id) ?? []), hand])
    for (const pass of passes.value) for (const c of pass.controls) add(c.parameter, c.hand)
    for (const [id, hand] of live.value?.hands ?? []) add(id, hand)
    ridden.value = all
  }
  watch([passes, live], publish)

  return {
    ...{ columns, known, settings, settingOf, modeOf, trims, set, put, take, fill, inHand, toggleInHand, shows, back, bounds },
    ...{
      lands,
      room,
      controls,
      at,
      valueOf,
      standing,
      drives,
      beatOf,
      whenKnown,
      grab,
      move,
      letGo,
      held,
      live,
      passes,
      request,
      readied,
      shaped,
      change,
    },
    ...{ throwAway, again, offered, takeUp, turnDown, open },
  }
})
