// The preview of the request on the worksheet: asked for as it changes, the newest answer wins.
import { defineStore } from 'pinia'
import { computed, onBeforeUnmount, ref, shallowRef, watch, type ComputedRef } from 'vue'
import { api, asked, ServerProblem, type AnyRequest, type ChangeOut, type Problem, type TouchedOut } from '../api/client'
import { columnsFor, detailOf, serves, widened } from '../bench/curves'
import type { View } from '../bench/geometry'
import { useBench } from './bench'
import { useSession } from './session'

const BESIDE = 0.75 // windows drawn on both sides of the one on view: a preview is asked for at every move of a drag

export const usePreview = defineStore('preview', () => {
  const session = useSession()
  const bench = useBench()
  /** What the worksheet says, and what hands on a strip say while they drag, which goes before it. */
  const written = shallowRef<AnyRequest | null>(null)
  const gesture = shallowRef<AnyRequest | null>(null)
  /** A step that a remedy offers to take first; it goes before what the worksheet says until that changes. */
  const first = shallowRef<AnyRequest | null>(null)
  /** What was applied last: it is not offered again by itself, as long as nothing else has changed. */
  const spent = shallowRef<{ request: AnyRequest; title: string; revision: number } | null>(null)
  const isSpent = computed(
    () =>
      spent.value?.revision === session.data?.revision && JSON.stringify(spent.value?.request) === JSON.stringify(written.value),
  )
  const request = computed(() => gesture.value ?? first.value ?? (isSpent.value ? null : written.value))
  const change = shallowRef<ChangeOut | null>(null)
  const problem = ref<Problem | null>(null)
  const waiting = ref(false)
  const hint = ref('')
  let running: AbortController | null = null
  let shown: { view: View; detail: number } | null = null
  let frame = 0

  const touched = computed(() => {
    const all = new Map<string, TouchedOut[]>()
    for (const t of change.value?.touched ?? []) all.set(t.parameter, [...(all.get(t.parameter) ?? []), t])
    return all
  })

  function clear(): void {
    running?.abort()
    change.value = null
    problem.value = null
    waiting.value = false
    bench.guests = []
  }

  async function ask(): Promise<void> {
    frame = 0
    const now = session.data
    const wanted = request.value
    if (!now || !wanted) return
    running?.abort()
    const mine = new AbortController()
    running = mine
    waiting.value = true
    const view = widened(bench.view, BESIDE)
    const detail = detailOf(bench.view, bench.plotWidth)
    const columns = columnsFor(bench.plotWidth, BESIDE)
    try {
      const body = { revision: now.revision, request: wanted, view: { ...view, columns, strips: bench.pins } }
      const call = { params: { path: { id: now.id } }, body, signal: mine.signal }
      const answer = await asked(api.POST('/api/sessions/{id}/preview', call))
      change.value = answer
      problem.value = null
      shown = { view, detail }
      bench.guests = answer.guests
    } catch (error) {
      if (error instanceof DOMException && error.name === 'AbortError') return
      if (!(error instanceof ServerProblem)) throw error
      session.gone = error.gone
      if (error.status === 409) session.newer = error.problem.head ?? null
      change.value = null
      problem.value = error.gone ? null : error.problem
      bench.guests = []
    } finally {
      if (running === mine) waiting.value = false
    }
  }

  function soon(): void {
    if (!frame) frame = requestAnimationFrame(() => void ask())
  }

  watch(written, () => (first.value = null))
  watch([request, () => session.data], () => {
    if (request.value) soon()
    else clear()
  })
  watch(
    () => [bench.view, bench.plotWidth] as const,
    ([view, width]) => {
      if (!request.value || !shown) return
      if (!serves(shown.view, shown.detail, view, width, BESIDE / 3)) soon()
    },
  )

  /** Remember that a request was applied. */
  function spend(applied: AnyRequest, title: string): void {
    if (first.value) first.value = null
    else if (session.data) spent.value = { request: applied, title, revision: session.data.revision }
  }

  return { written, gesture, first, spent, isSpent, spend, hint, request, change, problem, waiting, touched, clear }
})

/** Keep a sheet's request as what is previewed, for as long as the sheet is open; `hint` says what a request still lacks. */
export function usePreviewOf(request: ComputedRef<AnyRequest | null>, hint?: () => string): void {
  const preview = usePreview()
  watch(request, (next) => (preview.written = next), { immediate: true })
  watch(hint ?? (() => ''), (next) => (preview.hint = next), { immediate: true })
  onBeforeUnmount(() => {
    preview.written = null
    preview.hint = ''
  })
}
