// The open session as the server says it, and the ways to change it.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import {
  api,
  asked,
  sentence,
  ServerProblem,
  type AnyRequest,
  type LaneOut,
  type ParameterOut,
  type RegionOut,
  type SessionOut,
  type TrackOut,
} from '../api/client'
import { positionText } from '../bench/geometry'

const WATCH_EVERY = 2500

export const useSession = defineStore('session', () => {
  const data = shallowRef<SessionOut | null>(null)
  const missing = ref('')
  const trouble = ref('')
  const gone = ref(false)
  const newer = ref<number | null>(null)
  /** What of the session is damaged in the database, until it was read. */
  const damaged = ref<string[]>([])
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

  function laneName(id: string): string {
    const lane = lanes.value.get(id)
    const owner = lane && parameters.value.get(lane.parameter)
    return owner ? `${owner.track.name} ${owner.parameter.name}${lane.home_name ? ` in ${lane.home_name}` : ''}` : id
  }

  /** A beat as bar.beat.hundredths of this session. */
  function position(beat: number): string {
    return positionText(beat, data.value?.bars ?? [])
  }

  async function open(id: number): Promise<void> {
    stopWatching()
    if (data.value?.id !== id) data.value = null
    missing.value = ''
    await guarded(async () => {
      const before = data.value
      data.value = await asked(api.GET('/api/sessions/{id}', { params: { path: { id } } }))
      if (before?.id !== id) damaged.value = data.value.damaged
      newer.value = null
    })
    timer = window.setInterval(() => void watch(), WATCH_EVERY)
  }

  function stopWatching(): void {
    window.clearInterval(timer)
  }

  async function refresh(): Promise<void> {
    const id = data.value?.id
    if (id !== undefined) await open(id)
  }

  /** Ask where the session stands: another window may have moved it, or the server may be away. */
  async function watch(): Promise<void> {
    const now = data.value
    if (!now || document.hidden || waiting) return
    try {
      const head = await asked(api.GET('/api/sessions/{id}/head', { params: { path: { id: now.id } } }))
      gone.value = false
      if (data.value === now && !waiting) newer.value = head.revision === now.revision ? null : head.revision
    } catch (error) {
      if (error instanceof ServerProblem) gone.value = error.gone
    }
  }

  /** Run a call; what goes wrong becomes a sentence on screen, never silence. */
  async function guarded(work: () => Promise<void>): Promise<boolean> {
    try {
      await work()
      gone.value = false
      trouble.value = ''
      return true
    } catch (error) {
      told(error)
      return false
    }
  }

  /** Say a refusal on screen; what is no refusal goes on as the fault it is. */
  function told(error: unknown): void {
    if (error instanceof DOMException && error.name === 'AbortError') return
    if (!(error instanceof ServerProblem)) throw error
    gone.value = error.gone
    if (error.status === 404 && error.problem.code === 'not-found') missing.value = sentence(error.problem)
    else if (error.status === 409) newer.value = error.problem.head ?? null
    else if (!error.gone) trouble.value = sentence(error.problem)
  }

  /** The same for what was asked to be shown of a state: once there is another one, its refusal says nothing any more. */
  function toldOf(state: SessionOut, error: unknown): void {
    if (data.value === state && !waiting) told(error)
    else if (!(error instanceof ServerProblem || error instanceof DOMException)) throw error
  }

  /** Steps wait for each other, so that every press counts however fast they come; what is shown follows the last one. */
  let line: Promise<unknown> = Promise.resolve()
  let standing: { id: number; revision: number } | null = null
  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    waiting++
    const turn = line.then(work)
    const over = () => {
      waiting--
      if (!waiting) standing = null
    }
    line = turn.then(over, over)
    return turn
  }
  /** Take one step on the revision the last one led to, and show where the session stands once no further step waits. */
  async function step(call: (id: number, revision: number) => Promise<{ revision: number }>): Promise<void> {
    const { id, revision } = data.value!
    await inTurn(async () => {
      await guarded(async () => {
        const from = standing?.id === id ? standing.revision : revision
        standing = { id, revision: (await call(id, from)).revision }
      })
      if (waiting > 1 || standing === null || data.value?.id !== id || data.value.revision === standing.revision) return
      const refused = trouble.value // what the last step was refused for stays on screen
      await refresh()
      trouble.value ||= refused
    })
  }

  async function apply(request: AnyRequest): Promise<string | null> {
    if (!data.value) return null
    let title: string | null = null
    await step(async (id, revision) => {
      const call = { params: { path: { id } }, body: { revision, request } }
      const done = await asked(api.POST('/api/sessions/{id}/apply', call))
      title = done.title ?? null
      return done
    })
    return title
  }

  async function walk(way: 'undo' | 'redo'): Promise<void> {
    if (!data.value || (!waiting && !data.value[way])) return
    await step((id, revision) => {
      const call = { params: { path: { id } }, body: { revision } }
      return asked(way === 'undo' ? api.POST('/api/sessions/{id}/undo', call) : api.POST('/api/sessions/{id}/redo', call))
    })
  }

  async function rename(name: string): Promise<void> {
    const now = data.value
    if (!now || !name.trim() || name === now.name) return
    await guarded(async () => {
      await asked(api.PATCH('/api/sessions/{id}', { params: { path: { id: now.id } }, body: { name } }))
      await refresh()
    })
  }

  return {
    data,
    missing,
    trouble,
    gone,
    newer,
    tracks,
    parameters,
    regions,
    lanes,
    lanesOf,
    laneName,
    position,
    open,
    stopWatching,
    refresh,
    apply,
    walk,
    rename,
    guarded,
    told,
    toldOf,
    damaged,
  }
})
