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

export function widened(view: View): View {
  const width = view.end - view.start
  return { start: view.start - width, end: view.end + width }
}

export function useCurves() {
  const session = useSession()
  const bench = useBench()
  const curves = shallowRef(new Map<string, Curve>())
  const version = ref(0)
  let fetched: Fetched | null = null
  let running: AbortController | null = null

  function wantedLanes(): string[] {
    return bench.strips.flatMap((p) => (session.lanesOf.get(p) ?? []).map((lane) => lane.id))
  }

  function fresh(key: string): boolean {
    if (!fetched || fetched.key !== key) return false
    const detail = detailOf(bench.view, bench.plotWidth)
    const covered = fetched.view.start <= Math.max(bench.view.start, 0) && fetched.view.end >= bench.view.end
    return covered && detail < fetched.detail * 1.6 && detail > fetched.detail / 2.5
  }

  async function fetchNow(): Promise<void> {
    const now = session.data
    if (!now) return
    const lanes = wantedLanes()
    const key = `${now.id}:${now.revision}:${lanes.join(',')}`
    if (fresh(key)) return
    running?.abort()
    if (!lanes.length) return
    const mine = new AbortController()
    running = mine
    const view = widened(bench.view)
    const columns = Math.min(Math.round(bench.plotWidth * 3), 8192)
    try {
      const query = { lanes: lanes.join('\n'), start: view.start, end: view.end, columns }
      const call = { params: { path: { id: now.id }, query }, signal: mine.signal }
      const answer = await asked(api.GET('/api/sessions/{id}/curves', call))
      fetched = { key, view, detail: columns / (view.end - view.start) }
      curves.value = new Map(answer.map((curve) => [curve.lane, curve]))
      version.value++
    } catch (error) {
      if (error instanceof ServerProblem) session.gone = error.gone
    }
  }

  watch([() => session.data, () => bench.strips, () => bench.view, () => bench.plotWidth], () => void fetchNow(), {
    immediate: true,
  })
  return { curves, version }
}
