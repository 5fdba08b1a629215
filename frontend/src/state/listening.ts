// Listening: time that runs is heard. What is there now, or what would come; some tracks alone; equally loud.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, asked, ServerProblem, surely, type AnyRequest, type Links, type Schemas } from '../api/client'
import { secondsAt } from '../lib/clock'
import { positionText } from '../lib/said'
import { useTransport } from './desk/transport'
import { useBench } from './bench'
import { useNotices } from './notices'
import { usePreview } from './preview'
import { useSelection } from './selection'
import { useSession } from './session'
import { handOf } from '../sound/hand'
import { METER_FRAMES } from '../sound/graph'
import { Player, type Side } from '../sound/player'

type Scores = Schemas['ScoresOut']
const WINDOW = 24 // seconds of a score that are asked for at once
const LONGEST_ROUND = 600 // seconds of a round whose score is asked for whole
const LEAST = 0.01 // seconds
const MANY = 60 // tracks from which on only those on view are asked for
const PATIENCE = 500 // ms until time runs without its sound
const IDLE = 4000 // ms after which what would be heard is asked for before it is
const METERS = 60 // ms between two looks at the meters
const MEAN_OVER = 5 // looks

const MASTER = ''
/** Peak and mean of both sides, as factors. */
export type Levels = [number, number, number, number]

export const useListening = defineStore('listening', () => {
  const session = useSession()
  const transport = useTransport()
  const bench = useBench()
  const preview = usePreview()
  const selection = useSelection()
  const notices = useNotices()

  /** Which of the two is wanted, and whether there is one that would come. */
  const side = ref<Side>('now')
  const coming = computed(() => !!preview.change && !preview.change.empty && !!preview.request)
  const heard = computed<Side>(() => (side.value === 'applied' && coming.value ? 'applied' : 'now'))
  const alone = ref<string[]>([])
  const silent = ref<string[]>([])
  const onlyWork = ref(false)
  const even = ref(false)
  /** By how much what would come is louder over the range, in dB, as far as it was measured. */
  const louder = ref<number | null>(null)
  /** Where a channel (or the master, without an id) first went over full scale since play began, as a beat. */
  const overs = ref<Map<string, number>>(new Map())
  const levels = shallowRef<{ master: Levels; of: Map<string, Levels> } | null>(null)
  /** The parameters that no stand-in lets be heard, and files that are not there. */
  const unheard = ref<Set<string>>(new Set())
  const deaf = ref(false)
  let player: Player | null = null
  let starting = 0
  let startedFrom: number | null = null

  const clock = () => session.data?.clock ?? []
  const seconds = (beat: number) => secondsAt(clock(), beat)
  const round = computed(() => {
    const range = transport.round
    return range ? { from: seconds(range.start), to: seconds(range.end) } : null
  })

  // ── what is asked for ──────────────────────────────────────────────────────────────────────

  interface Question {
    id: number
    revision: number
    start: number
    end: number
    request: AnyRequest | null
    links: Links | null
    tracks: string[] | null
  }
  function question(from: number): Question | null {
    const now = session.data
    if (!now) return null
    const last = Math.max(seconds(now.length), LEAST)
    const around = round.value && round.value.to - round.value.from <= LONGEST_ROUND ? round.value : null
    const [start, end] = around ? [Math.min(from, around.from), around.to] : [from, Math.min(from + WINDOW, last)]
    const request = coming.value ? preview.request : null
    const tracks = now.tracks.length > MANY ? [...onView.value] : null
    return { id: now.id, revision: now.revision, start, end: Math.max(end, start + LEAST), request, links: preview.links, tracks }
  }
  const onView = computed(() => {
    const tracks = bench.strips.map((p) => session.parameters.get(p)?.track.id)
    return new Set([...tracks, ...alone.value].filter((id): id is string => !!id))
  })
  let before: { key: string; scores: Promise<Scores> } | null = null
  function scoresFor(wanted: Question): Promise<Scores> {
    const key = JSON.stringify(wanted)
    if (before?.key === key) return before.scores
    const { id, start, end, request, links, tracks } = wanted
    const call = { params: { path: { id } }, body: { start, end, request, links, tracks, each: true } }
    const scores = asked(api.POST('/api/sessions/{id}/score', call))
    before = { key, scores }
    scores.catch(() => (before = null))
    return scores
  }
  /** Have the score, and the sound of its first seconds, before it is wanted. */
  async function ahead(): Promise<void> {
    const wanted = question(startOf())
    if (!wanted || document.hidden || transport.running) return
    const scores = await scoresFor(wanted).catch(() => null)
    if (scores) learn(scores)
  }
  function startOf(): number {
    const range = transport.round
    const inside = !range || (bench.cursor >= range.start && bench.cursor < range.end)
    return seconds(inside ? bench.cursor : range.start)
  }
  let timer = 0
  let used = false
  watch(
    [() => bench.cursor, () => transport.round, () => session.data?.revision, () => preview.change],
    () => {
      window.clearTimeout(timer)
      if (!transport.running) timer = window.setTimeout(() => void ahead(), used ? 350 : IDLE)
    },
    { immediate: true },
  )
  const told = new Set<string>()
  function sayOnce(text: string): void {
    if (told.has(text)) return
    told.add(text)
    notices.note(text)
  }
  function learn(scores: Scores): void {
    unheard.value = new Set(scores.now.channels.flatMap((c) => c.unheard))
    const { missing, circles } = scores.now
    if (missing.length) sayOnce(`${missing.map((name) => `“${name}”`).join(', ')} is not here: a stand-in sounds for it.`)
    if (circles.length) sayOnce(`${circles.join(', ')} would feed a bus back into itself, and is not heard.`)
    if ((session.data?.tracks.length ?? 0) > MANY)
      sayOnce(`Of ${session.data!.tracks.length} tracks those on view are heard, and those that are alone.`)
  }

  // ── playing ────────────────────────────────────────────────────────────────────────────────

  watch([() => transport.running, () => transport.preparing], ([runs, prepares]) => {
    if (!runs && !prepares) stop()
  })
  watch(
    () => session.data?.id,
    () => {
      player?.stop()
      player = null
      alone.value = silent.value = []
      onlyWork.value = false
      side.value = 'now'
      louder.value = null
    },
  )
  transport.listenTo({
    waits: () => startedFrom,
    place: () => (player?.playing ? player.position() : null),
    prepare: (beat) => Promise.race([begin(beat), new Promise<void>((done) => window.setTimeout(done, PATIENCE))]),
    rejoin: () => void begin(transport.now(), false),
  })
  /** Let it be heard from a place on; time that runs waits a little for its sound, or goes on and is joined by it. */
  async function begin(beat: number, waits = true): Promise<void> {
    const mine = ++starting
    const now = session.data
    if (!now) return
    used = true
    const from = seconds(beat)
    startedFrom = transport.running && waits ? from : null
    const late = window.setTimeout(() => mine === starting && (startedFrom = null), PATIENCE)
    try {
      if (!('AudioContext' in window)) return quiet()
      player ??= new Player(now.id, () => !following && void follow())
      const awake = player.ctx.resume()
      const wanted = question(from)
      if (!wanted) return
      const scores = await scoresFor(wanted)
      await Promise.race([awake, new Promise((done) => window.setTimeout(done, 300))])
      if (mine !== starting || !(transport.running || transport.preparing)) return
      learn(scores)
      if (player.ctx.state !== 'running') return quiet()
      deaf.value = false
      const joins = transport.running
      startedFrom = null
      player.start(scores, joins ? seconds(transport.now()) : from, seconds(now.length), round.value, joins)
      player.swap(heard.value)
      player.listen(audible)
      overs.value.clear()
      look()
      void measure()
    } catch (error) {
      if (!(error instanceof ServerProblem)) throw error
      session.told(error)
    } finally {
      window.clearTimeout(late)
      if (mine === starting) startedFrom = null
    }
  }
  /** The browser starts no sound: time runs all the same, and that is said once. */
  function quiet(): void {
    if (!deaf.value) notices.note('This browser plays no sound just now. Time runs all the same.')
    deaf.value = true
  }
  function stop(): void {
    starting++
    startedFrom = null
    player?.stop()
    levels.value = null
  }
  watch(
    () => transport.jumped,
    () => void begin(transport.beat ?? bench.cursor),
  )
  /** What is there, or would come, has changed while it is heard: the newest answer is followed. */
  let following = false
  let again = false
  async function follow(): Promise<void> {
    if (!player?.playing) return
    if (following) {
      again = true
      return
    }
    following = true
    const place = player.position() ?? 0
    const wanted = question(place)
    const revision = session.data?.revision
    const scores = wanted && (await scoresFor(wanted).catch(() => null))
    following = false
    if (scores && player.playing && session.data?.revision === revision) {
      player.change('now', scores.now)
      player.change('applied', coming.value ? scores.applied : null)
      player.swap(heard.value)
      learn(scores)
    }
    if (again) {
      again = false
      void follow()
    }
  }
  watch([() => preview.change, () => session.data?.revision], () => void follow())
  watch(round, (now, was) => {
    if (player?.playing && JSON.stringify(now) !== JSON.stringify(was)) void begin(transport.beat ?? bench.cursor)
  })

  // ── which of the two ───────────────────────────────────────────────────────────────────────

  function swap(to: Side = side.value === 'now' ? 'applied' : 'now'): void {
    side.value = to
  }
  watch(heard, (now) => player?.swap(now))

  // ── alone and silent ───────────────────────────────────────────────────────────────────────

  const working = computed(() => {
    const touched = preview.change?.touched.map((t) => session.parameters.get(t.parameter)?.track.id) ?? []
    const chosen = selection.lanes
      .map((id) => session.lanes.get(id)?.parameter)
      .map((p) => (p ? session.parameters.get(p)?.track.id : undefined))
    return [...new Set([...touched, ...chosen].filter((id): id is string => !!id))]
  })
  const onlyThese = computed(() => (onlyWork.value && working.value.length ? working.value : alone.value))
  function audible(id: string): boolean {
    if (silent.value.includes(id)) return false
    if (!onlyThese.value.length || onlyThese.value.includes(id)) return true
    return session.tracks.get(id)?.kind === 'bus'
  }
  watch([onlyThese, silent], () => player?.listen(audible), { deep: true })
  const toggled = (all: string[], id: string) => (all.includes(id) ? all.filter((x) => x !== id) : [...all, id])
  function toggleAlone(id: string): void {
    alone.value = toggled(alone.value, id)
    silent.value = silent.value.filter((x) => x !== id)
  }
  function toggleSilent(id: string): void {
    silent.value = toggled(silent.value, id)
    alone.value = alone.value.filter((x) => x !== id)
  }
  /** Alone the tracks of what is chosen; all again where they are that already. */
  function workAlone(): void {
    const same = alone.value.length === working.value.length && working.value.every((id) => alone.value.includes(id))
    alone.value = same ? [] : [...working.value]
    silent.value = []
  }
  function all(): void {
    alone.value = silent.value = []
    onlyWork.value = false
  }
  /** How many tracks are heard of how many, where it is not all of them. */
  const some = computed(() => {
    const tracks = (session.data?.tracks ?? []).filter((t) => t.kind !== 'group')
    const count = tracks.filter((t) => audible(t.id) && (!onlyThese.value.length || onlyThese.value.includes(t.id))).length
    return count < tracks.length ? { count, of: tracks.length } : null
  })

  // ── equally loud ───────────────────────────────────────────────────────────────────────────

  /** What is being measured, or was measured last: asked for again it is not measured again. */
  let measured: { key: string; read: Promise<Schemas['ReadingsOut'] | null> } | null = null
  async function measure(): Promise<void> {
    const now = session.data
    if (!now || !coming.value || !even.value) {
      measured = null
      player?.even({ now: 1, applied: 1 })
      return
    }
    const place = player?.position() ?? startOf()
    const [start, end] = round.value ? [round.value.from, round.value.to] : [place, Math.min(place + 30, seconds(now.length))]
    if (end - start < 0.05) return
    const body = { start, end, request: preview.request, links: preview.links, each: false }
    const key = JSON.stringify([now.id, now.revision, body])
    if (measured?.key !== key) {
      const call = { params: { path: { id: now.id } }, body }
      measured = { key, read: surely(() => api.POST('/api/sessions/{id}/readings', call)).catch(() => null) }
    }
    const mine = measured
    const read = await mine.read
    if (mine !== measured) return
    if (!read) measured = null
    louder.value = read?.louder ?? null
    player?.even(read ? { now: read.lower_now, applied: read.lower_applied } : { now: 1, applied: 1 })
  }
  watch([even, () => preview.change, round], () => void measure())
  watch(coming, (now) => {
    if (!now) louder.value = null
  })

  // ── meters, and hands ──────────────────────────────────────────────────────────────────────

  const samples = new Float32Array(METER_FRAMES)
  /** Mean squares of the last looks, by meter: a mean is one over 300 ms. */
  const looks = new WeakMap<AnalyserNode, number[]>()
  function levelsOf(meters: AnalyserNode[]): Levels {
    const [peaks, means] = [
      [0, 0],
      [0, 0],
    ]
    meters.forEach((meter, i) => {
      meter.getFloatTimeDomainData(samples)
      let [peak, sum] = [0, 0]
      for (const x of samples) {
        const size = x < 0 ? -x : x
        if (size > peak) peak = size
        sum += x * x
      }
      const squares = [...(looks.get(meter) ?? []), sum / samples.length].slice(-MEAN_OVER)
      looks.set(meter, squares)
      peaks[i] = peak
      means[i] = Math.sqrt(squares.reduce((a, b) => a + b) / squares.length)
    })
    return [peaks[0]!, peaks[1]!, means[0]!, means[1]!]
  }
  function look(): void {
    if (!player?.playing) return
    const of = new Map<string, Levels>()
    const clips = (id: string, [left, right]: Levels) => {
      if (Math.max(left, right) > 1 && !overs.value.has(id) && transport.beat !== null) overs.value.set(id, transport.beat)
    }
    for (const id of watched.keys()) {
      const meters = player.metersOf(id)
      if (!meters) continue
      of.set(id, levelsOf(meters))
      clips(id, of.get(id)!)
    }
    const master = levelsOf(player.meters)
    clips(MASTER, master)
    levels.value = { master, of }
    window.setTimeout(look, METERS)
  }
  /** Whose meters are on view, and in how many places. */
  const watched = new Map<string, number>()
  function watchMeter(id: string): () => void {
    const more = (by: number) => {
      const places = (watched.get(id) ?? 0) + by
      if (places) watched.set(id, places)
      else watched.delete(id)
    }
    more(1)
    return () => more(-1)
  }
  /** Where it first went over full scale, in words; nothing where it did not. */
  function overText(id: string = MASTER): string | undefined {
    const beat = overs.value.get(id)
    return beat === undefined ? undefined : positionText(beat, session.data?.bars ?? [])
  }
  /** A control under a hand is heard at once; what is kept of it is the core's. */
  function hand(parameter: string, value: number, adds = 0): void {
    const found = session.parameters.get(parameter)?.parameter
    if (found && player?.playing) player.hold(parameter, handOf(found, value, adds))
  }
  /** Let go: the newest answer is what is heard again. */
  const letGo = () => void follow()

  return {
    ...{ side, heard, coming, swap, alone, silent, onlyWork, toggleAlone, toggleSilent, workAlone, all, some, audible, working },
    ...{ even, louder, levels, unheard, deaf, watchMeter, overText, hand, letGo, measure },
  }
})
