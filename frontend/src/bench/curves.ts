// Fetches curves for the strips that are near, a screen ahead on both sides; the newest answer wins.
import { ref, shallowRef, watch, type Ref } from 'vue'
import { api, asked, type Curve } from '../api/client'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import type { View } from './geometry'
import { inPieces } from './near'

interface Fetched {
  key: string
  view: View
  detail: number
  columns: number
}

/** Columns a beat that the screen can show now. */
export function detailOf(view: View, width: number): number {
  return width / (view.end - view.start)
}

/** Windows that are fetched on both sides of the one on view, so that there is something to pan into. */
const BESIDE = 1.25
const LEAST = 0.6 // windows left beside the one on view, below which more is fetched

/** The window and what is fetched beside it; a preview, asked for at every move of a drag, fetches less. */
export function widened(view: View, beside = BESIDE): View {
  const more = (view.end - view.start) * beside
  return { start: view.start - more, end: view.end + more }
}

/** One column for every two pixels of the widened window. */
export function columnsFor(width: number, beside = BESIDE): number {
  return Math.min(Math.round((width * (1 + 2 * beside)) / 2), 8192)
}

/** Whether what was fetched for a window still serves another: near enough in place and in detail. */
export function serves(had: View, detail: number, now: View, width: number, least = LEAST): boolean {
  const spare = (now.end - now.start) * least
  const covered = had.start <= Math.max(now.start - spare, 0) && had.end >= now.end + spare
  return covered && detailOf(now, width) < detail * 1.6 && detailOf(now, width) > detail / 2.5
}

/** The curves of the strips that are near. */
export function useCurves(near: Ref<string[]>) {
  const session = useSession()
  const bench = useBench()
  const curves = shallowRef(new Map<string, Curve>())
  /** Counts up when there are curves of another state of the session, or of other lanes. */
  const version = ref(0)
  let fetched: Fetched | null = null
  let running: AbortController | null = null
  let asking: { key: string; lanes: string; view: View } | null = null

  function wantedLanes(): string[] {
    const drawn = near.value.flatMap((p) => [p, ...(bench.shares[p] ?? [])])
    return [...new Set(drawn.flatMap((p) => (session.lanesOf.get(p) ?? []).map((lane) => lane.id)))]
  }
  const stillServes = (view: View, detail: number) => serves(view, detail, bench.view, bench.plotWidth)

  async function fetchNow(): Promise<void> {
    const now = session.data
    if (!now) return
    const wanted = wantedLanes()
    const key = `${now.id}:${now.revision}`
    const good = fetched?.key === key && stillServes(fetched.view, fetched.detail)
    // What was fetched for this window serves on: only what has come near since is asked for, in the same columns.
    const lanes = good ? wanted.filter((id) => !curves.value.has(id)) : wanted
    if (!lanes.length) return
    const detail = good ? fetched!.detail : detailOf(bench.view, bench.plotWidth)
    const { view, columns } = good ? fetched! : { view: widened(bench.view), columns: columnsFor(bench.plotWidth) }
    const same = asking?.key === key && asking.lanes === lanes.join() && serves(asking.view, detail, bench.view, bench.plotWidth)
    if (running && !running.signal.aborted && same) return
    running?.abort()
    const mine = new AbortController()
    running = mine
    asking = { key, lanes: lanes.join(), view }
    try {
      const answers = await Promise.all(
        inPieces(lanes).map((some) => {
          const query = { lanes: some.join('\n'), start: view.start, end: view.end, columns }
          return asked(api.GET('/api/sessions/{id}/curves', { params: { path: { id: now.id }, query }, signal: mine.signal }))
        }),
      )
      const kept = good ? [...curves.value] : []
      const other = fetched?.key !== key || good
      fetched = { key, view, detail, columns }
      curves.value = new Map([...kept, ...answers.flat().map((curve): [string, Curve] => [curve.lane, curve])])
      if (other) version.value++
    } catch (error) {
      session.toldOf(now, error)
    } finally {
      if (running === mine) running = asking = null
    }
  }

  watch([() => session.data, near, () => bench.shares, () => bench.view, () => bench.plotWidth], () => void fetchNow(), {
    immediate: true,
  })
  return { curves, version }
}
