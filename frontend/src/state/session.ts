// The open session as the server says it, and the steps that change it.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import {
  api,
  asked,
  sentence,
  ServerProblem,
  surely,
  type AlternativeOut,
  type AnyRequest,
  type LaneOut,
  type Links,
  type ParameterOut,
  type PlacementOut,
  type RegionOut,
  type SessionOut,
  type Stepped,
  type TrackOut,
} from '../api/client'
import { momentNow } from '../lib/moments'
import { positionText } from '../lib/said'
import { isAbort } from '../lib/abort'
import { useNotices } from './notices'
import { patched } from './patching'
import { useWaiting } from './waiting'
import { windowName } from './windowName'

const WATCH_EVERY = 2500

export const useSession = defineStore('session', () => {
  const notices = useNotices()
  const worked = useWaiting()
  const data = shallowRef<SessionOut | null>(null)
  /** What the last step changed; null where the session was read as a whole. */
  const last = shallowRef<Stepped | null>(null)
  const missing = ref('')
  const gone = ref(false)
  const newer = ref<number | null>(null)
  let timer = 0
  let waiting = 0

  const tracks = computed(() => new Map((data.value?.tracks ?? []).map((t) => [t.id, t])))
  const parameters = computed(() => {
    const all = new Map<string, { track: TrackOut; parameter: ParameterOut }>()
    for (const track of data.value?.tracks ?? [])
      for (const parameter of track.parameters) all.set(parameter.id, { track, parameter })
    return all
  })
  const regions = computed(() => {
    const all = new Map<string, { track: TrackOut; region: RegionOut }>()
    for (const track of data.value?.tracks ?? []) for (const region of track.regions) all.set(region.id, { track, region })
    return all
  })
  const lanes = computed(() => new Map((data.value?.lanes ?? []).map((lane) => [lane.id, lane])))
  const lanesOf = computed(() => {
    const all = new Map<string, LaneOut[]>()
    for (const lane of data.value?.lanes ?? []) {
      const list = all.get(lane.parameter)
      if (list) list.push(lane)
      else all.set(lane.parameter, [lane])
    }
    return all
  })

  const alternatives = computed(() => new Map((data.value?.alternatives ?? []).map((a) => [a.id, a])))
  const alternativesOf = computed(() => {
    const all = new Map<string, AlternativeOut[]>()
    for (const one of data.value?.alternatives ?? []) all.set(one.parameter, [...(all.get(one.parameter) ?? []), one])
    return all
  })
  /** Whether it is a session as it was, to be looked at and listened to. */
  const readOnly = computed(() => !!data.value?.past)

  const notes = computed(() => new Map((data.value?.notes ?? []).map((n) => [`${n.about} ${n.of}`, n.text])))
  const noteOn = (about: string, of: string): string => notes.value.get(`${about} ${of}`) ?? ''
  /** The revision it stood at when it was opened. */
  const openedAt = ref(0)
  /** What a note is on, by name. */
  function calledOf(about: string, of: string): string {
    if (about === 'lane') return laneName(of)
    if (about === 'parameter') return parameterName(of)
    return about === 'region' ? (regions.value.get(of)?.region.name ?? '') : (tracks.value.get(of)?.name ?? '')
  }
  const phrases = computed(() => new Map((data.value?.linked.phrases ?? []).map((p) => [p.id, p])))
  const placements = computed(() => new Map((data.value?.linked.placements ?? []).map((p) => [p.id, p])))
  const placedOn = computed(() => {
    const all = new Map<string, PlacementOut[]>()
    for (const one of data.value?.linked.placements ?? []) all.set(one.parameter, [...(all.get(one.parameter) ?? []), one])
    return all
  })

  /** Regions that share their name with another one of their track. */
  const twins = computed(() => {
    const alike = new Set<string>()
    for (const track of data.value?.tracks ?? []) {
      const first = new Map<string, string>()
      for (const { id, name } of track.regions) {
        if (first.has(name)) alike.add(first.get(name)!).add(id)
        else first.set(name, id)
      }
    }
    return alike
  })
  /** A lane as people say it; in a region whose name others have too, with the bar it starts in. */
  function laneName(id: string): string {
    const lane = lanes.value.get(id)
    if (!lane) return id
    if (!lane.home_name) return parameterName(lane.parameter)
    const [bar] = twins.value.has(lane.home) ? position(regions.value.get(lane.home)!.region.start).split('.') : []
    return `${parameterName(lane.parameter)} in ${lane.home_name}${bar ? `, bar ${bar}` : ''}`
  }
  function parameterName(id: string): string {
    const owner = parameters.value.get(id)
    return owner ? `${owner.track.name} ${owner.parameter.name}` : id
  }
  /** The lane that is heard at a beat, if the track reads; none where the static value is. */
  function speakingAt(parameter: string, beat: number): LaneOut | undefined {
    const spans = data.value?.speaking[parameter] ?? []
    const span = spans.find((s) => beat < s.end) ?? spans[spans.length - 1]
    return span?.lane == null ? undefined : lanes.value.get(span.lane)
  }
  /** A beat as bar.beat.hundredths of this session. */
  function position(beat: number): string {
    return positionText(beat, data.value?.bars ?? [])
  }

  // ── reading ────────────────────────────────────────────────────────────────────────────────

  let opening = 0
  async function open(id: number): Promise<void> {
    stopWatching()
    const mine = ++opening
    if (data.value?.id !== id) data.value = null
    missing.value = ''
    /** What is asked for, unless another one was opened meanwhile, or none is open any more. */
    async function newest<T>(call: Promise<T>): Promise<T | null> {
      try {
        const found = await call
        return mine === opening ? found : null
      } catch (error) {
        if (mine === opening) throw error
        return null
      }
    }
    await guarded(async () => {
      const before = data.value
      last.value = null
      const query = before ? {} : { first: true }
      const found = await newest(asked(api.GET('/api/sessions/{id}', { params: { path: { id }, query } })))
      if (!found || data.value !== before) return // a step has led further meanwhile
      data.value = found
      if (before?.id !== id) openedAt.value = found.revision
      if (before?.id !== id) sayDamaged(data.value)
      newer.value = null
    })
    if (mine === opening) timer = window.setInterval(() => void watch(), WATCH_EVERY)
  }
  /** Leave it: what is on its way comes to nothing, and nothing is asked for any more. */
  function leave(): void {
    opening++
    stopWatching()
  }
  function sayDamaged({ damaged }: SessionOut): void {
    if (!damaged.length) return
    const more = damaged.length > 3 ? `; and ${damaged.length - 3} more` : ''
    notices.note(`${damaged.slice(0, 3).join('; ')}${more}. Everything else is as it was.`)
  }
  function stopWatching(): void {
    window.clearInterval(timer)
  }
  async function refresh(): Promise<void> {
    const id = data.value?.id
    if (id !== undefined) await open(id)
  }
  /** Steps of which no answer came: they may have been saved all the same. By their names, what they were. */
  const lost = new Map<string, string>()
  /** Whether where the session stands is a step of this very window, whose answer was lost: then it is so, and shown. */
  async function cameFrom(step: string): Promise<boolean> {
    const what = lost.get(step)
    if (what === undefined) return false
    lost.clear()
    await refresh()
    notices.note(`${what} was saved, though its answer was lost. Nothing needs to be done again.`)
    return true
  }
  /** Ask where the session stands: another window may have moved it, or the server may be away. */
  async function watch(): Promise<void> {
    const now = data.value
    if (!now || document.hidden || waiting) return
    try {
      const head = await asked(api.GET('/api/sessions/{id}/head', { params: { path: { id: now.id } } }))
      gone.value = false
      if (data.value !== now || waiting) return
      if (head.revision !== now.revision && (await cameFrom(head.step))) return
      if (data.value === now) newer.value = head.revision === now.revision ? null : head.revision
    } catch (error) {
      if (error instanceof ServerProblem) gone.value = error.gone
    }
  }

  // ── what goes wrong ────────────────────────────────────────────────────────────────────────

  /** Run a call; what goes wrong becomes a sentence on screen, never silence. */
  async function guarded(work: () => Promise<void>): Promise<boolean> {
    try {
      await work()
      gone.value = false
      notices.settle()
      return true
    } catch (error) {
      told(error)
      return false
    }
  }
  /** Say a refusal on screen; what is no refusal goes on as the fault it is. */
  function told(error: unknown): void {
    if (isAbort(error)) return
    if (!(error instanceof ServerProblem)) throw error
    gone.value = error.gone
    if (error.status === 409) newer.value = error.problem.head ?? null
    if (error.status === 404 && error.problem.code === 'not-found') missing.value = sentence(error.problem)
    else if (error.status !== 409 && !error.gone) notices.refuse(sentence(error.problem))
  }
  /** Notice that the server is away, or that what was shown of a state is out of date. */
  function away(error: ServerProblem, state: SessionOut | null): void {
    gone.value = error.gone
    if (error.status === 409 && data.value === state && !waiting) newer.value = error.problem.head ?? null
  }

  // ── steps ──────────────────────────────────────────────────────────────────────────────────

  /** Steps wait for each other, so that every press counts however fast they come; each is taken on where the last one led. */
  let line: Promise<unknown> = Promise.resolve()
  async function step(
    what: string,
    call: (id: number, revision: number, name: string) => Promise<Stepped>,
  ): Promise<Stepped | null> {
    const { id } = data.value!
    if (readOnly.value) {
      notices.refuse('This is the session as it was: go back to the session itself to change it')
      return null
    }
    waiting++
    const name = crypto.randomUUID()
    const turn = line.then(async () => {
      const from = data.value
      if (from?.id !== id) return null
      let done: Stepped | null = null
      await guarded(async () => {
        done = await call(id, from.revision, name).catch((error: unknown) => {
          if (error instanceof ServerProblem && error.gone) lost.set(name, what)
          throw error
        })
        if (data.value?.id !== id) return
        last.value = done
        data.value = patched(data.value, done)
        newer.value = null
      })
      return done
    })
    line = turn.catch(() => undefined)
    try {
      return await turn
    } finally {
      waiting--
      if (lost.size) void watch()
    }
  }
  /** Apply a request; its points are those of the revision that is shown now, or that they were `counted` in; `instead` of the last step, or after it; what it replaces is kept aside, if it is to `keep`. */
  async function apply(
    request: AnyRequest,
    links: Links | null = null,
    counted?: number,
    instead = false,
    keep = false,
  ): Promise<string | null> {
    if (!data.value) return null
    const counted_at = counted ?? data.value.revision
    const done = await step('Your step', (id, revision, step) => {
      return worked.ticketed((ticket) => {
        const call = {
          params: { path: { id } },
          body: { revision, request, links, counted_at, instead, keep, when: momentNow(), window: windowName, ticket, step },
        }
        return asked(api.POST('/api/sessions/{id}/apply', call))
      })
    })
    return done?.title ?? null
  }
  async function walk(way: 'undo' | 'redo'): Promise<void> {
    if (!data.value || (!waiting && !data.value[way])) return
    const title = data.value[way] ?? 'Keep'
    const done = await step(way === 'undo' ? 'Your undo' : 'Your redo', (id, revision, step) => {
      const call = { params: { path: { id } }, body: { revision, step } }
      return asked(way === 'undo' ? api.POST('/api/sessions/{id}/undo', call) : api.POST('/api/sessions/{id}/redo', call))
    })
    if (way === 'undo' && done?.in_book != null) offerBook(done.in_book, title)
  }
  /** A phrase that a step had kept stays in the book when the step is taken back, unless it goes too. */
  function offerBook(phrase: number, title: string): void {
    const go = () =>
      guarded(async () => {
        const call = { params: { path: { phrase } }, body: { deleted: true } }
        await surely(() => api.PATCH('/api/book/{phrase}', call))
      })
    notices.note(`Undone: ${title}. The phrase is still in the book.`, { words: 'take it out of the book too', go })
  }
  async function rename(name: string): Promise<void> {
    const now = data.value
    if (!now || !name.trim() || name === now.name) return
    await guarded(async () => {
      await surely(() => api.PATCH('/api/sessions/{id}', { params: { path: { id: now.id } }, body: { name } }))
      await refresh()
    })
  }

  return {
    data,
    last,
    missing,
    gone,
    newer,
    tracks,
    parameters,
    regions,
    lanes,
    lanesOf,
    phrases,
    placements,
    placedOn,
    twins,
    alternatives,
    alternativesOf,
    readOnly,
    noteOn,
    openedAt,
    calledOf,
    laneName,
    parameterName,
    speakingAt,
    position,
    open,
    leave,
    refresh,
    apply,
    walk,
    rename,
    guarded,
    told,
    away,
  }
})
