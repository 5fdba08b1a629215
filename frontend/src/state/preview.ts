// The preview of the request on the worksheet: asked for as it changes, the newest answer wins.
import { defineStore } from 'pinia'
import { computed, onBeforeUnmount, ref, shallowRef, watch, type ComputedRef } from 'vue'
import { api, asked, type AnyRequest, type Links, type TouchedOut } from '../api/client'
import { columnsFor, detailOf, serves, widened } from '../lib/fetching'
import type { View } from '../lib/geometry'
import { useAsking } from './asking'
import { useBench } from './bench'
import { useSession } from './session'
import { useWaiting } from './waiting'

const BESIDE = 0.75 // windows drawn on both sides of the one on view
const BESIDE_A_DRAG = 0.05 // a preview is asked for at every move of a drag

interface Question {
  id: number
  revision: number
  request: AnyRequest
  /** The revision in which a hand has counted its points. */
  counted: number | null
  links: Links | null
  /** Whether it goes in place of the last step. */
  instead: boolean
  view: View
  detail: number
  columns: number
  strips: string[]
}

/** What a hand asks for, from its press to its end; what asks after a newer press asks for nothing. */
export interface Held {
  ask: (request: AnyRequest | null) => void
  /** Whether it is this hand's request that is previewed. */
  current: () => boolean
  /** Apply what was asked for last, and let go once that is done; null if nothing was. */
  apply: () => Promise<{ title: string | null; asked: AnyRequest } | null>
  letGo: () => void
}

export const usePreview = defineStore('preview', () => {
  const session = useSession()
  const bench = useBench()
  const worked = useWaiting()
  /** What the worksheet says, and what hands on a strip say while they drag, which goes before it. */
  const written = shallowRef<AnyRequest | null>(null)
  const inHand = shallowRef<{ by: symbol; request: AnyRequest; counted: number } | null>(null)
  const gesture = computed(() => inHand.value?.request ?? null)
  /** What the worksheet says even where something is still missing: for its sentence. */
  const draft = shallowRef<AnyRequest | null>(null)
  /** A step that a remedy offers to take first; it goes before what the worksheet says until that changes. */
  const first = shallowRef<AnyRequest | null>(null)
  /** What was applied last: it is not offered again by itself, as long as nothing else has changed. */
  const spent = shallowRef<{ request: AnyRequest; title: string; revision: number } | null>(null)
  const isSpent = computed(
    () =>
      spent.value?.revision === session.data?.revision && JSON.stringify(spent.value?.request) === JSON.stringify(written.value),
  )
  const request = computed(() => gesture.value ?? first.value ?? (isSpent.value ? null : written.value))
  /** Whether what is written goes in place of the last step; that can be as long as nothing else came after it. */
  const instead = ref(false)
  const canBeInstead = computed(
    () =>
      spent.value?.revision === session.data?.revision &&
      request.value === written.value &&
      written.value?.verb === spent.value?.request.verb,
  )
  watch(canBeInstead, (can) => {
    if (!can) instead.value = false
  })
  /** Whether what is there before it is kept aside when it is applied; of a step in place of another, what that one made. */
  const keep = ref(false)
  const canKeep = computed(() => {
    const verb = request.value?.verb
    const own = verb === 'use alternatives' || verb === 'keep aside' || verb === 'bring back'
    return !own && !!change.value?.touched.length
  })
  /** Where a request writes on a linked place: follow into its phrase, here only, or set free; nothing: as its verb usually does. */
  const links = ref<Links | null>(null)
  watch([written, gesture], ([sheet, hand]) => {
    if (!hand && sheet?.verb !== lastVerb) links.value = null
    lastVerb = sheet?.verb
  })
  let lastVerb: string | undefined
  watch(
    () => session.data?.revision,
    () => (links.value = null),
  )
  /** What a request still lacks, in words. */
  const hint = ref('')

  const question = computed<Question | null>((before) => {
    const now = session.data
    const wanted = request.value
    if (!now || !wanted || session.readOnly) return null
    const same =
      before?.id === now.id &&
      before.revision === now.revision &&
      before.request === wanted &&
      before.links === links.value &&
      before.instead === instead.value
    const counted = inHand.value && inHand.value.counted !== now.revision ? inHand.value.counted : null
    const beside = gesture.value ? BESIDE_A_DRAG : BESIDE
    if (before && same && serves(before.view, before.detail, bench.view, bench.plotWidth, beside / 3)) return before
    const [view, detail] = [widened(bench.view, beside), detailOf(bench.view, bench.plotWidth)]
    const columns = columnsFor(bench.plotWidth, beside)
    return {
      id: now.id,
      revision: now.revision,
      request: wanted,
      counted,
      links: links.value,
      instead: instead.value,
      view,
      detail,
      columns,
      strips: bench.pins,
    }
  })
  const {
    answer: change,
    problem,
    waiting,
    again,
  } = useAsking(
    () => question.value,
    ({ id, revision, request, counted: counted_at, links, instead, view, columns, strips }, signal) => {
      const pencil = gesture.value === null // a strip has what its lanes do now
      const asking = (ticket: string) => {
        const body = { revision, request, counted_at, links, instead, view: { ...view, columns, strips, pencil }, ticket }
        return asked(api.POST('/api/sessions/{id}/preview', { params: { path: { id } }, body, signal }))
      }
      return worked.ticketed(asking, signal)
    },
    { patient: () => gesture.value !== null },
  )
  watch(change, (now) => (bench.guests = now?.guests ?? []))
  watch(written, () => (first.value = null))

  const touched = computed(() => {
    const all = new Map<string, TouchedOut[]>()
    for (const t of change.value?.touched ?? []) all.set(t.parameter, [...(all.get(t.parameter) ?? []), t])
    return all
  })

  /** A hand takes hold: what it asks for goes before what the worksheet says, until it lets go or a newer one does. */
  function hold(): Held {
    const by = Symbol('hand')
    const counted = session.data!.revision
    let asked: AnyRequest | null = null
    const current = () => inHand.value?.by === by
    const letGo = () => {
      if (current()) inHand.value = null
    }
    return {
      current,
      letGo,
      ask: (request) => {
        asked = request
        inHand.value = request && { by, request, counted }
      },
      apply: async () => {
        if (!asked) {
          letGo()
          return null
        }
        try {
          return { title: await session.apply(asked, links.value, counted), asked }
        } finally {
          letGo()
        }
      },
    }
  }

  /** Remember that a request was applied. */
  function spend(applied: AnyRequest, title: string): void {
    // What a remedy made of the sheet's own request says all of it; any other step came before it.
    const own = written.value?.verb === applied.verb ? written.value : applied
    keep.value = false
    first.value = null
    if (session.data) spent.value = { request: own, title, revision: session.data.revision }
  }

  return {
    ...{ keep, canKeep, written, draft, links, gesture, hold, first, instead, canBeInstead, spent, isSpent, spend },
    ...{ hint, request, change, problem, waiting, again, touched },
  }
})

/** Keep a sheet's request as what is previewed, for as long as the sheet is open; `hint` says what it still lacks, `draft` is it with that. */
export function usePreviewOf(
  request: ComputedRef<AnyRequest | null>,
  hint?: () => string,
  draft: ComputedRef<AnyRequest | null> = request,
): void {
  const preview = usePreview()
  watch(draft, (next) => (preview.draft = next), { immediate: true })
  watch(request, (next) => (preview.written = next), { immediate: true })
  watch(hint ?? (() => ''), (next) => (preview.hint = next), { immediate: true })
  onBeforeUnmount(() => {
    preview.written = null
    preview.draft = null
    preview.hint = ''
  })
}
