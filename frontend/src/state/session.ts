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
  let timer = 0

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
      data.value = await asked(api.GET('/api/sessions/{id}', { params: { path: { id } } }))
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
    if (!now || document.hidden) return
    try {
      const head = await asked(api.GET('/api/sessions/{id}/head', { params: { path: { id: now.id } } }))
      gone.value = false
      if (data.value === now) newer.value = head.revision === now.revision ? null : head.revision
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
      if (!(error instanceof ServerProblem)) throw error
      gone.value = error.gone
      if (error.status === 404) missing.value = sentence(error.problem)
      else if (error.status === 409) newer.value = error.problem.head ?? null
      else if (!error.gone) trouble.value = sentence(error.problem)
      return false
    }
  }

  async function apply(request: AnyRequest): Promise<string | null> {
    const now = data.value
    if (!now) return null
    let title: string | null = null
    await guarded(async () => {
      const body = { revision: now.revision, request }
      const done = await asked(api.POST('/api/sessions/{id}/apply', { params: { path: { id: now.id } }, body }))
      title = done.title ?? null
      await refresh()
    })
    return title
  }

  async function walk(way: 'undo' | 'redo'): Promise<void> {
    const now = data.value
    if (!now || !now[way]) return
    await guarded(async () => {
      const call = { params: { path: { id: now.id } }, body: { revision: now.revision } }
      await asked(way === 'undo' ? api.POST('/api/sessions/{id}/undo', call) : api.POST('/api/sessions/{id}/redo', call))
      await refresh()
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
    data, missing, trouble, gone, newer, tracks, parameters, regions, lanes, lanesOf,
    laneName, position, open, stopWatching, refresh, apply, walk, rename, guarded,
  }
})
