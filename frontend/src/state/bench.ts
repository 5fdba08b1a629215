// The bench: the window of time, which strips it shows and how tall they are, the cursor; kept per session.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { clampView, type View } from '../lib/geometry'
import { Keeper, readKept, type Kept } from './keeping'
import { toggled, useSelection, type Range } from './selection'
import { useSession } from './session'
import { useWorksheet } from './worksheet'

/** How tall strips are: at least so many pixels, and more where there is room. */
export const SIZES = { low: 62, middle: 96, tall: 190 } as const
export type Size = keyof typeof SIZES
const TALLEST = 420 // of strips that share the room
export const [LEAST_DRAGGED, MOST_DRAGGED] = [44, 640] as const
/** The ledger's width, unless it is dragged to another. */
const LEDGER = 276
export const GRIDS = ['bar', '1/2', '1/4', '1/8', '1/16', '1/32', '1/64', '1/4t', '1/8t', '1/16t', 'off']

export const useBench = defineStore('bench', () => {
  const session = useSession()
  const selection = useSelection()
  const worksheet = useWorksheet()
  const view = shallowRef<View>({ start: 0, end: 64 })
  const plotWidth = ref(900)
  const pins = ref<string[]>([])
  /** Strips that a preview brings along. */
  const guests = ref<string[]>([])
  /** Heights that were dragged, by strip; all others share the room. */
  const heights = ref<Record<string, number>>({})
  const size = ref<Size>('middle')
  /** The height of the window that the strips are seen through. */
  const room = ref(500)
  /** The strip that is drawn large for fine work. */
  const large = ref<string | null>(null)
  const cursor = ref(0)
  const hover = ref<number | null>(null)
  /** Where time is, while it runs. */
  const playhead = ref<number | null>(null)
  const grid = ref('1/4')
  /** The strip to be scrolled into sight, and whether the keys go on from it. */
  const going = ref<string | null>(null)
  const focusing = ref(false)
  /** The strip that the focus was on last; the one that can be come to by Tab. */
  const atStrip = ref<string | null>(null)
  const stopStrip = computed(() => (atStrip.value && strips.value.includes(atStrip.value) ? atStrip.value : strips.value[0]))
  /** Parameters whose strips also draw what is heard. */
  const heardOn = ref<string[]>([])
  /** The region looked at closely, in its own time; and the window to go back to. */
  const closer = ref<string | null>(null)
  /** Parameters whose automation is begun in it. */
  const begun = ref<string[]>([])
  let wide: View | null = null
  /** Parameters that share another one's strip: its id to theirs. */
  const shares = ref<Record<string, string[]>>({})
  const sets = ref<{ name: string; pins: string[] }[]>([])
  /** The ledger's width in pixels; 0 if it is folded away. */
  const ledger = ref(LEDGER)
  let widest = LEDGER
  let keeper: Keeper | null = null
  let current: number | null = null
  let saving = 0

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
    if (closer.value) {
      const there = (session.data?.lanes ?? []).filter((x) => x.home === closer.value).map((x) => x.parameter)
      return [...new Set([...there, ...begun.value])]
    }
    const pinned = pins.value.filter((p) => session.parameters.has(p))
    const brought = guests.value.filter((p) => !pinned.includes(p) && session.parameters.has(p))
    const sources = new Set(selection.lanes.map((id) => session.lanes.get(id)?.parameter))
    const at = pinned.findLastIndex((p) => sources.has(p)) + 1 || pinned.length
    return [...pinned.slice(0, at), ...brought, ...pinned.slice(at)]
  })

  // ── kept per session ───────────────────────────────────────────────────────────────────────

  watch(
    () => session.data?.id,
    (id) => {
      if (id !== undefined && id !== current) load(id)
    },
    { immediate: true },
  )
  const kept = computed<Kept>(() => ({
    view: view.value,
    pins: pins.value,
    heights: heights.value,
    size: size.value,
    range: selection.range,
    cursor: cursor.value,
    grid: grid.value,
    chosen: selection.lanes,
    sets: sets.value,
    shares: shares.value,
    heard_on: heardOn.value,
    folded: worksheet.folded || worksheet.over,
    ledger: ledger.value,
  }))
  watch(kept, () => {
    window.clearTimeout(saving)
    saving = window.setTimeout(save, 150)
  })
  function save(leaving = false): void {
    keeper?.keep(kept.value, leaving)
  }
  window.addEventListener('pagehide', () => save(true))
  watch(
    () => session.regions,
    (regions) => {
      if (closer.value && !regions.has(closer.value)) lookCloser(null)
    },
  )

  function load(id: number): void {
    window.clearTimeout(saving)
    save()
    current = id
    guests.value = []
    hover.value = null
    const before = readKept(id, session.data!.bench)
    const opening = session.data!.opening
    view.value = clampView(before.view ?? opening, length.value)
    pins.value = before.pins ?? opening.parameters
    size.value = before.size ?? 'middle'
    large.value = null
    heights.value = before.heights ?? {}
    cursor.value = before.cursor ?? 0
    sets.value = before.sets ?? []
    shares.value = before.shares ?? {}
    closer.value = null
    heardOn.value = before.heard_on ?? []
    grid.value = before.grid && GRIDS.includes(before.grid) ? before.grid : '1/4'
    ledger.value = before.ledger ?? LEDGER
    worksheet.folded = before.folded ?? worksheet.foldedLast()
    selection.letGo()
    selection.range = before.range ?? null
    selection.lanes = (before.chosen ?? []).filter((lane) => session.lanes.has(lane))
    keeper = new Keeper(id, kept.value)
  }

  // ── strips ─────────────────────────────────────────────────────────────────────────────────

  function togglePin(parameter: string): void {
    pins.value = toggled(pins.value, parameter)
  }
  function pin(parameter: string): void {
    if (!pins.value.includes(parameter)) pins.value = [...pins.value, parameter]
  }
  /** Put one strip in another's place, so that stepping does not fill the bench. */
  function replace(before: string, after: string): void {
    if (pins.value.includes(after)) return
    pins.value = pins.value.includes(before) ? pins.value.map((p) => (p === before ? after : p)) : [...pins.value, after]
  }
  /** Pin the lanes of a parameter's name and family, on every track that uses it, and nothing else. */
  function showEvery(parameter: string): void {
    const wanted = session.parameters.get(parameter)?.parameter
    if (!wanted) return
    const alike = (session.data?.lanes ?? []).filter((lane) => {
      const other = session.parameters.get(lane.parameter)!.parameter
      return other.family === wanted.family && other.name === wanted.name
    })
    pins.value = [...new Set(alike.map((lane) => lane.parameter))]
  }
  /** What is left for a strip that shares the room with the others; no less than its size says. */
  const shared = computed(() => {
    const own = strips.value.flatMap((id) => heights.value[id] ?? [])
    const sharing = Math.max(strips.value.length - own.length, 1)
    const left = room.value - own.reduce((sum, height) => sum + height, 0)
    return Math.max(Math.min(Math.floor(left / sharing), TALLEST), SIZES[size.value])
  })
  function heightOf(parameter: string): number {
    if (large.value && strips.value.includes(large.value))
      return parameter === large.value ? Math.max(room.value - SIZES.low, SIZES.tall) : SIZES.low
    return heights.value[parameter] ?? shared.value
  }
  function setHeight(parameter: string, height: number): void {
    heights.value = { ...heights.value, [parameter]: Math.min(Math.max(height, LEAST_DRAGGED), MOST_DRAGGED) }
  }
  /** Low, middle, tall, and low again; heights that were dragged are let go of. */
  function nextSize(): void {
    const all = Object.keys(SIZES) as Size[]
    size.value = all[(all.indexOf(size.value) + 1) % all.length]!
    heights.value = {}
  }
  /** Draw a strip large, or all as they were. */
  function toggleLarge(parameter: string | undefined): void {
    large.value = large.value || !parameter ? null : parameter
    if (large.value) going.value = large.value
  }
  /** Fold the ledger away, or bring it back as wide as it was. */
  function toggleLedger(): void {
    if (ledger.value) widest = ledger.value
    ledger.value = ledger.value ? 0 : widest
  }
  function toggleShare(strip: string, parameter: string): void {
    shares.value = { ...shares.value, [strip]: toggled(shares.value[strip] ?? [], parameter) }
  }
  function toggleHeard(parameter: string): void {
    heardOn.value = toggled(heardOn.value, parameter)
  }
  /** What is heard, on every strip or on none. */
  function toggleHeardEverywhere(): void {
    heardOn.value = strips.value.every((p) => heardOn.value.includes(p)) ? [] : [...strips.value]
  }

  // ── the window ─────────────────────────────────────────────────────────────────────────────

  function show(next: View): void {
    view.value = clampView(next, length.value)
  }
  /** A span with some air on both sides. */
  function showAround({ start, end }: Range): void {
    const air = (end - start) * 0.2
    show({ start: start - air, end: end + air })
  }
  function pan(beats: number): void {
    show({ start: view.value.start + beats, end: view.value.end + beats })
  }
  /** Zoom by a factor about a beat, which stays where it is on screen. */
  function zoom(factor: number, about: number): void {
    const { start, end } = view.value
    show({ start: about - (about - start) * factor, end: about + (end - about) * factor })
  }
  /** Go to a lane's strip, and to a span if there is one: pinned, scrolled to, in view. */
  function goTo(parameter: string, span?: Range): void {
    if (closer.value && session.regions.get(closer.value)?.track.id === session.parameters.get(parameter)?.track.id) {
      begin(parameter)
      return
    }
    if (closer.value) lookCloser(null)
    pin(parameter)
    going.value = parameter
    if (!span) return
    const { start, end } = view.value
    if (span.start >= start && span.end <= end) return
    const width = Math.max(end - start, (span.end - span.start) * 1.25)
    const middle = (span.start + span.end) / 2
    show({ start: middle - width / 2, end: middle + width / 2 })
  }
  /** Begin a parameter's automation in the region that is looked at: an empty strip, to draw on. */
  function begin(parameter: string): void {
    if (!strips.value.includes(parameter)) begun.value = [...begun.value, parameter]
    going.value = parameter
  }
  /** Look at one region in its own time, or back at the session. */
  function lookCloser(id: string | null): void {
    const region = id ? session.regions.get(id)?.region : undefined
    if (region && id) {
      wide ??= view.value
      begun.value = []
      closer.value = id
      selection.regions = [id]
      selection.finding = null
      cursor.value = region.start
      show({ start: region.start, end: region.start + region.length })
    } else {
      closer.value = null
      if (wide) show(wide)
      wide = null
    }
  }

  return {
    view,
    plotWidth,
    pins,
    guests,
    heights,
    size,
    room,
    large,
    shared,
    cursor,
    hover,
    playhead,
    grid,
    going,
    focusing,
    atStrip,
    stopStrip,
    begin,
    heardOn,
    closer,
    ledger,
    shares,
    sets,
    length,
    bars,
    strips,
    togglePin,
    pin,
    replace,
    showEvery,
    heightOf,
    setHeight,
    nextSize,
    toggleLarge,
    toggleLedger,
    toggleShare,
    toggleHeard,
    toggleHeardEverywhere,
    show,
    showAround,
    pan,
    zoom,
    goTo,
    lookCloser,
  }
})
