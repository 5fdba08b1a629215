// The bench: the window of time, which strips it shows and how tall they are, the cursor; kept per session.
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { clampView } from '../lib/geometry'
import { makeCloser } from './bench/closer'
import { makeHeights } from './bench/heights'
import { makeStrips } from './bench/strips'
import { makeWindow } from './bench/window'
import { Keeper, readKept, type Kept } from './keeping'
import { useSelection, type Range } from './selection'
import { useSession } from './session'
import { useWorksheet } from './worksheet'

/** The ledger's width, unless it is dragged to another. */
const LEDGER = 276
export const GRIDS = ['bar', '1/2', '1/4', '1/8', '1/16', '1/32', '1/64', '1/4t', '1/8t', '1/16t', 'off']

export const useBench = defineStore('bench', () => {
  const session = useSession()
  const selection = useSelection()
  const worksheet = useWorksheet()
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
  /** The ledger's width in pixels; 0 if it is folded away. */
  const ledger = ref(LEDGER)
  let widest = LEDGER

  const length = computed(() => session.data?.length ?? 256)
  const frame = makeWindow(length)
  const { closer, bars, inRegion, isOfTrack, ...close } = makeCloser(cursor)
  const shown = makeStrips(inRegion)
  const { strips, pins, guests, sets, shares, heardOn } = shown
  const tall = makeHeights(strips, going)
  const { view, show } = frame

  // ── going somewhere ────────────────────────────────────────────────────────────────────────

  /** Go to a lane's strip, and to a span if there is one: pinned, scrolled to, in view. */
  function goTo(parameter: string, span?: Range): void {
    if (closer.value && isOfTrack(parameter)) return begin(parameter)
    if (closer.value) lookCloser(null)
    shown.pin(parameter)
    going.value = parameter
    if (span) frame.reach(span)
  }
  /** Begin a parameter's automation in the region that is looked at: an empty strip, to draw on. */
  function begin(parameter: string): void {
    close.begin(parameter)
    going.value = parameter
  }
  /** Look at one region in its own time, or back at the session. */
  function lookCloser(id: string | null): void {
    const next = close.look(id, view.value)
    if (next) show(next)
  }
  watch(
    () => session.regions,
    (regions) => {
      if (closer.value && !regions.has(closer.value)) lookCloser(null)
    },
  )
  /** Fold the ledger away, or bring it back as wide as it was. */
  function toggleLedger(): void {
    if (ledger.value) widest = ledger.value
    ledger.value = ledger.value ? 0 : widest
  }

  // ── kept per session ───────────────────────────────────────────────────────────────────────

  let keeper: Keeper | null = null
  let current: number | null = null
  let saving = 0
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
    heights: tall.heights.value,
    size: tall.size.value,
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
    tall.size.value = before.size ?? 'middle'
    tall.large.value = null
    tall.heights.value = before.heights ?? {}
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

  return {
    ...frame,
    ...shown,
    ...tall,
    ...{ cursor, hover, playhead, grid, going, focusing, atStrip, stopStrip, closer, ledger, length, bars },
    ...{ begin, toggleLedger, goTo, lookCloser },
  }
})
