// Answers by id (curves, what is heard, findings): asked for once, and again only for what a step has changed.
import { computed, shallowRef, watch, type ShallowRef } from 'vue'
import { columnsFor, detailOf, serves, widened } from '../lib/fetching'
import type { View } from '../lib/geometry'
import type { Schemas, Stepped } from '../api/client'
import { useAsking } from './asking'
import { useBench } from './bench'
import { useSession } from './session'

interface Had<A> {
  session: number
  answers: Map<string, A>
  /** What a step has changed since it was asked for; it is shown until the new answer comes. */
  stale: Set<string>
  view: View
  detail: number
  columns: number
}

export interface Asked {
  session: number
  revision: number
  ids: string[]
  view: View
  detail: number
  columns: number
}

interface Sort<A> {
  wanted: () => string[]
  changed: (step: Stepped) => string[]
  ask: (asked: Asked, signal: AbortSignal) => Promise<[string, A][]>
  /** What of it came along with the session, for the strips that are drawn first. */
  first?: (first: Schemas['FirstStrips']) => [string, A][]
  /** Whether the answers are drawn over a window of time, and have to be asked for anew when it moves far. */
  windowed: boolean
}

/** The answers, and a version that counts up when some are of another state of the session, or of other ids. */
export function useAnswers<A>(sort: Sort<A>): { answers: ShallowRef<Map<string, A>>; version: ShallowRef<number> } {
  const session = useSession()
  const bench = useBench()
  const answers = shallowRef(new Map<string, A>())
  const version = shallowRef(0)
  const had = shallowRef<Had<A> | null>(null)

  function takeFirst(): void {
    const first = session.data?.first
    if (!first || !sort.first) return
    const { start, end, detail, columns } = first
    answers.value = new Map(sort.first(first))
    had.value = { session: session.data!.id, answers: answers.value, stale: new Set(), view: { start, end }, detail, columns }
    version.value++
  }
  // At once, as the next step may come before anything else is done.
  watch(
    () => session.data,
    (now) => {
      const known = had.value
      if (!known) return takeFirst()
      if (!now || now.id !== known.session || !session.last) had.value = null
      else had.value = { ...known, stale: new Set([...known.stale, ...sort.changed(session.last)]) }
    },
    { flush: 'sync', immediate: true },
  )
  const stillServes = (x: { view: View; detail: number }) =>
    !sort.windowed || serves(x.view, x.detail, bench.view, bench.plotWidth)

  const question = computed<Asked | null>((before) => {
    const now = session.data
    const wanted = sort.wanted()
    if (!now || !wanted.length) return null
    const good = had.value?.session === now.id && stillServes(had.value) ? had.value : null
    const ids = good ? wanted.filter((id) => !good.answers.has(id) || good.stale.has(id)) : wanted
    if (!ids.length) return null
    const same = before?.session === now.id && before.revision === now.revision && before.ids.join() === ids.join()
    if (before && same && stillServes(before)) return before
    const window = good ?? {
      view: widened(bench.view),
      detail: detailOf(bench.view, bench.plotWidth),
      columns: columnsFor(bench.plotWidth),
    }
    const { view, detail, columns } = window
    return { session: now.id, revision: now.revision, ids, view, detail, columns }
  })
  useAsking(
    () => question.value,
    async (asked, signal) => {
      const found = await sort.ask(asked, signal)
      const known = had.value
      const goesOn = known !== null && known.view === asked.view && known.session === asked.session
      const next = new Map([...(goesOn ? known.answers : []), ...found])
      const other = !known || asked.ids.some((id) => !known.answers.has(id) || known.stale.has(id))
      const { session: id, view, detail, columns } = asked
      const stale = new Set(goesOn ? [...known.stale].filter((id) => !asked.ids.includes(id)) : [])
      had.value = { session: id, answers: next, stale, view, detail, columns }
      answers.value = next
      if (other) version.value++
      return null
    },
  )
  return { answers, version }
}
