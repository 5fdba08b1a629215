// Fetches what is heard on the strips that show it, and the gaps between regions that jump or drift.
import { shallowRef, watch, type Ref } from 'vue'
import { api, asked, type Schemas } from '../api/client'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import { columnsFor, detailOf, serves, widened } from './curves'
import type { View } from './geometry'

export type HeardLine = Schemas['HeardOut']
export type Gap = Schemas['GapOut']

export function useHeard(near: Ref<string[]>) {
  const session = useSession()
  const bench = useBench()
  const lines = shallowRef(new Map<string, HeardLine>())
  const gaps = shallowRef(new Map<string, Gap[]>())
  let fetched: { key: string; view: View; detail: number } | null = null
  let running: AbortController | null = null

  async function fetchLines(): Promise<void> {
    const now = session.data
    const wanted = near.value.filter((p) => bench.heardOn.includes(p))
    if (!now || !wanted.length) {
      if (lines.value.size) lines.value = new Map()
      fetched = null
      return
    }
    const key = `${now.id}:${now.revision}:${wanted.join(',')}`
    if (fetched?.key === key && serves(fetched.view, fetched.detail, bench.view, bench.plotWidth)) return
    const mine = new AbortController()
    running?.abort()
    running = mine
    const view = widened(bench.view)
    const detail = detailOf(bench.view, bench.plotWidth)
    fetched = { key, view, detail }
    try {
      const query = { parameters: wanted.join('\n'), start: view.start, end: view.end, columns: columnsFor(bench.plotWidth) }
      const call = { params: { path: { id: now.id }, query }, signal: mine.signal }
      const answer = await asked(api.GET('/api/sessions/{id}/heard', call))
      lines.value = new Map(answer.map((line) => [line.parameter, line]))
    } catch (error) {
      if (running === mine) fetched = null
      session.toldOf(now, error)
    }
  }

  async function fetchGaps(): Promise<void> {
    const now = session.data
    const wanted = near.value.filter((p) => session.parameters.get(p)?.track.regions.length)
    if (!now || !wanted.length) {
      gaps.value = new Map()
      return
    }
    try {
      const call = { params: { path: { id: now.id }, query: { parameters: wanted.join('\n') } } }
      const answer = await asked(api.GET('/api/sessions/{id}/gaps', call))
      const all = new Map<string, Gap[]>()
      for (const gap of answer) all.set(gap.parameter, [...(all.get(gap.parameter) ?? []), gap])
      gaps.value = all
    } catch (error) {
      session.toldOf(now, error)
    }
  }

  watch([() => session.data, near, () => bench.heardOn, () => bench.view, () => bench.plotWidth], () => void fetchLines(), {
    immediate: true,
  })
  watch([() => session.data, near], () => void fetchGaps(), { immediate: true })
  return { lines, gaps }
}
