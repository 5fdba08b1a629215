// What the bench shows: the window of time, the pinned strips, the range, the cursor; kept per session.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { AnyRequest, Schemas } from '../api/client'
import { clampView, type View } from '../bench/geometry'
import { useSession } from './session'

export interface Range {
  start: number
  end: number
}

interface Kept {
  view: View
  pins: string[]
  heights: Record<string, number>
  range: Range | null
  cursor: number
  grid: string
  chosen: string[]
  sets: { name: string; pins: string[] }[]
  shares: Record<string, string[]>
  heardOn: string[]
}

const FIRST_PINS = 4
export const STRIP_HEIGHT = 124
export const GRIDS = ['bar', '1/2', '1/4', '1/8', '1/16', '1/32', '1/64', '1/4t', '1/8t', '1/16t', 'off']

export const useBench = defineStore('bench', () => {
  const session = useSession()
  const view = shallowRef<View>({ start: 0, end: 64 })
  const plotWidth = ref(900)
  const pins = ref<string[]>([])
  const guests = ref<string[]>([])
  const heights = ref<Record<string, number>>({})
  const range = shallowRef<Range | null>(null)
  const chosen = ref<string[]>([])
  const cursor = ref(0)
  const hover = ref<number | null>(null)
  const grid = ref('1/4')
  const going = ref<string | null>(null)
  const verb = ref('carry')
  /** Picked points: lane id to indices. They go when the lane they count in changes under them. */
  const picked = shallowRef<Record<string, number[]>>({})
  const pickedCount = computed(() => Object.values(picked.value).reduce((sum, points) => sum + points.length, 0))
  const pickedRows = computed(() => Object.entries(picked.value).map(([lane, points]) => ({ lane, points })))
  /** What the draw verb does with a drag. */
  const pencil = ref<{ way: 'line' | 'free'; tolerance: number }>({ way: 'free', tolerance: 0.5 })
  const confirmed = ref(true)
  /** The regions that are chosen, by id, and the gap that is. */
  const regions = ref<string[]>([])
  const gap = shallowRef<Schemas['GapOut'] | null>(null)
  /** What the embed sheet does. */
  const embedding = ref<'embed' | 'lift' | 'fill' | 'precedence'>('embed')
  /** Parameters whose strips also draw what is heard. */
  const heardOn = ref<string[]>([])
  /** The region looked at closely, in its own time; and the window to go back to. */
  const closer = ref<string | null>(null)
  let wide: View | null = null
  /** Parameters that share another one's strip: its id to theirs. */
  const shares = ref<Record<string, string[]>>({})
  const sets = ref<{ name: string; pins: string[] }[]>([])
  let current: number | null = null
  let saving = 0
  let recalled = ''

  const length = computed(() => session.data?.length ?? 256)
  /** Bars to rule by: the session's; of a region looked at closely, from its start on in the meter it starts in. */
  const bars = computed(() => {
    const all = session.data?.bars ?? []
    const region = session.regions.get(closer.value ?? '')?.region
    const meter = region && (all.findLast((b) => b.beat <= region.start + 1e-9) ?? all[0])
    if (!region || !meter) return all
    const long = (meter.count * 4) / meter.unit
    const count = Math.min(Math.ceil(region.length / long) + 1, 2000)
    return Array.from({ length: count }, (_, i) => ({ ...meter, number: i + 1, beat: region.start + i * long }))
  })
  /** The strips on view: what is pinned, and below the source what a preview brings along. */
  const strips = computed(() => {
    if (closer.value)
      return [...new Set((session.data?.lanes ?? []).filter((x) => x.home === closer.value).map((x) => x.parameter))]
    const pinned = pins.value.filter((p) => session.parameters.has(p))
    const brought = guests.value.filter((p) => !pinned.includes(p) && session.parameters.has(p))
    const sources = new Set(chosen.value.map((id) => session.lanes.get(id)?.parameter))
    const at = pinned.findLastIndex((p) => sources.has(p)) + 1 || pinned.length
    return [...pinned.slice(0, at), ...brought, ...pinned.slice(at)]
  })

  watch(
    () => session.data?.id,
    (id) => {
      if (id !== undefined && id !== current) load(id)
    },
    { immediate: true },
  )
  watch([view, pins, heights, range, cursor, grid, chosen, sets, shares, heardOn], () => {
    window.clearTimeout(saving)
    saving = window.setTimeout(save, 150)
  })
  window.addEventListener('pagehide', save)
  watch(
    () => session.lanes,
    (lanes, before) => {
      const same = (id: string) => lanes.get(id)?.points === before.get(id)?.points
      picked.value = Object.fromEntries(Object.entries(picked.value).filter(([id]) => lanes.has(id) && same(id)))
      const left = chosen.value.filter((id) => lanes.has(id))
      if (left.length !== chosen.value.length) chosen.value = left
      regions.value = regions.value.filter((id) => session.regions.has(id))
      if (closer.value && !session.regions.has(closer.value)) lookCloser(null)
      gap.value = null
    },
  )

  /** Look at one region in its own time, or back at the session. */
  function lookCloser(id: string | null): void {
    const region = id ? session.regions.get(id)?.region : undefined
    if (region && id) {
      wide ??= view.value
      closer.value = id
      regions.value = [id]
      gap.value = null
      cursor.value = region.start
      show({ start: region.start, end: region.start + region.length })
    } else {
      closer.value = null
      if (wide) show(wide)
      wide = null
    }
  }

  function toggleHeard(parameter: string): void {
    heardOn.value = heardOn.value.includes(parameter)
      ? heardOn.value.filter((p) => p !== parameter)
      : [...heardOn.value, parameter]
  }
  /** What is heard, on every strip or on none. */
  function toggleHeardEverywhere(): void {
    heardOn.value = strips.value.every((p) => heardOn.value.includes(p)) ? [] : [...strips.value]
  }

  function load(id: number): void {
    window.clearTimeout(saving)
    save()
    current = id
    guests.value = []
    hover.value = null
    const kept = read(id)
    view.value = clampView(kept?.view ?? { start: 0, end: Math.min(length.value, 64) }, length.value)
    pins.value = kept?.pins ?? firstPins()
    heights.value = kept?.heights ?? {}
    range.value = kept?.range ?? null
    cursor.value = kept?.cursor ?? 0
    sets.value = kept?.sets ?? []
    shares.value = kept?.shares ?? {}
    picked.value = {}
    regions.value = []
    closer.value = null
    heardOn.value = kept?.heardOn ?? []
    grid.value = kept?.grid && GRIDS.includes(kept.grid) ? kept.grid : '1/4'
    chosen.value = (kept?.chosen ?? []).filter((lane) => session.lanes.has(lane))
  }

  function read(id: number): Partial<Kept> | null {
    try {
      return JSON.parse(localStorage.getItem(`velmot.bench.${id}`) ?? 'null') as Partial<Kept> | null
    } catch {
      return null
    }
  }

  function save(): void {
    if (current === null) return
    const kept: Kept = {
      view: view.value,
      pins: pins.value,
      heights: heights.value,
      range: range.value,
      cursor: cursor.value,
      grid: grid.value,
      chosen: chosen.value,
      sets: sets.value,
      shares: shares.value,
      heardOn: heardOn.value,
    }
    localStorage.setItem(`velmot.bench.${current}`, JSON.stringify(kept))
  }

  /** The first moving lane of each of the first tracks, so that a new session opens with curves. */
  function firstPins(): string[] {
    const first = new Map<string, string>()
    for (const lane of session.data?.lanes ?? []) if (lane.moves && !first.has(lane.track)) first.set(lane.track, lane.parameter)
    return [...first.values()].slice(0, FIRST_PINS)
  }

  function togglePin(parameter: string): void {
    pins.value = pins.value.includes(parameter) ? pins.value.filter((p) => p !== parameter) : [...pins.value, parameter]
  }

  function pin(parameter: string): void {
    if (!pins.value.includes(parameter)) pins.value = [...pins.value, parameter]
  }

  function heightOf(parameter: string): number {
    return heights.value[parameter] ?? STRIP_HEIGHT
  }

  function show(next: View): void {
    view.value = clampView(next, length.value)
  }

  function pan(beats: number): void {
    show({ start: view.value.start + beats, end: view.value.end + beats })
  }

  /** Zoom by a factor about a beat, which stays where it is on screen. */
  function zoom(factor: number, about: number): void {
    const { start, end } = view.value
    show({ start: about - (about - start) * factor, end: about + (end - about) * factor })
  }

  /** Settings that a sheet takes up when it opens. */
  const reopened = shallowRef<AnyRequest | null>(null)
  /** Put a request's settings on its sheet, and its lanes and range on the bench (or keep the lanes given). */
  function reopen(request: AnyRequest, keep?: string[]): void {
    reopened.value = request
    verb.value = request.verb
    if (keep) {
      chosen.value = keep
      return
    }
    if ('start' in request && request.start != null && 'end' in request && request.end != null)
      range.value = { start: request.start, end: request.end }
    const wanted = request.verb === 'carry' ? request.lanes : request.verb === 'retarget' ? [request.lane] : []
    chosen.value = wanted.filter((id) => session.lanes.has(id))
  }
  /** The reopened settings of a verb, once. */
  function takeReopened<V extends AnyRequest['verb']>(wanted: V): Extract<AnyRequest, { verb: V }> | null {
    const request = reopened.value
    if (request?.verb !== wanted) return null
    reopened.value = null
    return request as Extract<AnyRequest, { verb: V }>
  }

  /** Put one strip in another's place, so that stepping does not fill the bench. */
  function replace(before: string | undefined, after: string): void {
    if (pins.value.includes(after)) return
    pins.value =
      before && pins.value.includes(before) ? pins.value.map((p) => (p === before ? after : p)) : [...pins.value, after]
  }

  /** Step to the next lane of the track, or to the same parameter on the next track that has it in use. */
  function step(way: 'lane' | 'track', by: 1 | -1): void {
    const all = session.data?.lanes ?? []
    const here = session.lanes.get(chosen.value[0] ?? '') ?? session.lanesOf.get(strips.value[0] ?? '')?.[0] ?? all[0]
    const owner = here && session.parameters.get(here.parameter)
    if (!here || !owner) return
    const alike = all.filter((lane) => {
      const other = session.parameters.get(lane.parameter)!
      if (way === 'lane') return lane.track === here.track
      return other.parameter.family === owner.parameter.family && other.parameter.name === owner.parameter.name
    })
    const next = alike[(alike.findIndex((lane) => lane.id === here.id) + by + alike.length) % alike.length]!
    replace(here.parameter, next.parameter)
    chosen.value = [next.id]
    going.value = next.parameter
  }

  /** Show only the lanes of a parameter's name and family, on every track that uses it. */
  function showEvery(parameter: string): void {
    const wanted = session.parameters.get(parameter)?.parameter
    if (!wanted) return
    const alike = (session.data?.lanes ?? []).filter((lane) => {
      const other = session.parameters.get(lane.parameter)!.parameter
      return other.family === wanted.family && other.name === wanted.name
    })
    pins.value = [...new Set(alike.map((lane) => lane.parameter))]
  }

  function recall(name: string): void {
    const kept = sets.value.find((x) => x.name === name)
    if (!kept) return
    pins.value = kept.pins.filter((p) => session.parameters.has(p))
    recalled = name
  }
  function nextSet(): void {
    const at = sets.value.findIndex((x) => x.name === recalled)
    const next = sets.value[(at + 1) % Math.max(sets.value.length, 1)]
    if (next) recall(next.name)
  }

  /** Go to a lane's strip, and to a span if there is one: pinned, scrolled to, in view. */
  function goTo(parameter: string, span?: Range): void {
    pin(parameter)
    going.value = parameter
    if (!span) return
    const { start, end } = view.value
    if (span.start >= start && span.end <= end) return
    const width = Math.max(end - start, (span.end - span.start) * 1.25)
    const middle = (span.start + span.end) / 2
    show({ start: middle - width / 2, end: middle + width / 2 })
  }

  return {
    bars,
    regions,
    gap,
    embedding,
    heardOn,
    closer,
    lookCloser,
    toggleHeard,
    toggleHeardEverywhere,
    verb,
    picked,
    pickedCount,
    pickedRows,
    pencil,
    confirmed,
    sets,
    view,
    plotWidth,
    pins,
    guests,
    heights,
    range,
    chosen,
    cursor,
    hover,
    grid,
    going,
    length,
    strips,
    togglePin,
    pin,
    heightOf,
    show,
    pan,
    zoom,
    goTo,
    step,
    showEvery,
    recall,
    nextSet,
    shares,
    reopened,
    reopen,
    takeReopened,
  }
})
