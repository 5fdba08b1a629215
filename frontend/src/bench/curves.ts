// Fetches curves for the strips on view, a screen ahead on both sides; the newest answer wins.
import { ref, shallowRef, watch } from 'vue'
import { api, asked, ServerProblem, type Curve } from '../api/client'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import type { View } from './geometry'

interface Fetched {
  key: string
  view: View
  detail: number
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

export function useCurves() {
  const session = useSession()
  const bench = useBench()
  const curves = shallowRef(new Map<string, Curve>())
  /** Counts up when there are curves of another state of the session, or of other lanes. */
  const version = ref(0)
  let fetched: Fetched | null = null
  let running: AbortController | null = null
  let asking = ''
  let askedFor: View = { start: 0, end: 0 }

  function wantedLanes(): string[] {
    const drawn = bench.strips.flatMap((p) => [p, ...(bench.shares[p] ?? [])])
    return [...new Set(drawn.flatMap((p) => (session.lanesOf.get(p) ?? []).map((lane) => lane.id)))]
  }

  function fresh(key: string): boolean {
    return fetched?.key === key && serves(fetched.view, fetched.detail, bench.view, bench.plotWidth)
  }

  async function fetchNow(): Promise<void> {
    const now = session.data
    if (!now) return
    const lanes = wantedLanes()
    const key = `${now.id}:${now.revision}:${lanes.join(',')}`
    if (fresh(key)) return
    if (running && !running.signal.aborted && asking === key && serves(askedFor, detailOf(bench.view, bench.plotWidth), bench.view, bench.plotWidth)) return
    running?.abort()
    if (!lanes.length) return
    const mine = new AbortController()
    running = mine
    const view = widened(bench.view)
    asking = key
    askedFor = view
    const detail = detailOf(bench.view, bench.plotWidth)
    const columns = columnsFor(bench.plotWidth)
    try {
      const query = { lanes: lanes.join('\n'), start: view.start, end: view.end, columns }
      const call = { params: { path: { id: now.id }, query }, signal: mine.signal }
      const answer = await asked(api.GET('/api/sessions/{id}/curves', call))
      const other = fetched?.key !== key
      fetched = { key, view, detail }
      curves.value = new Map(answer.map((curve) => [curve.lane, curve]))
      if (other) version.value++
    } catch (error) {
      if (error instanceof ServerProblem) session.gone = error.gone
    } finally {
      if (running === mine) running = null
    }
  }

  watch([() => session.data, () => bench.strips, () => bench.shares, () => bench.view, () => bench.plotWidth], () => void fetchNow(), {
    immediate: true,
  })
  return { curves, version }
}
