// What is found in the session: counted quietly a while after every step, listed on its sheet; and what is ticked there.
import { defineStore } from 'pinia'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api, asked, type FoundOut, type Schemas } from '../api/client'
import { keyOf } from '../lib/findings'
import { useAsking } from './asking'
import { useSession } from './session'

const QUIET = 1500 // ms after a step until it is looked again, where nobody looks at the list
export type Both = Schemas['BothOut']

export const useTidying = defineStore('tidying', () => {
  const session = useSession()
  /** Whether the list is on view, so that it follows at once. */
  const watched = ref(false)
  const now = computed(() => (session.data ? { id: session.data.id, revision: session.data.revision } : null))
  /** The revision to look at: the newest, at once or after a while. */
  const question = shallowRef<{ id: number; revision: number } | null>(null)
  let timer = 0
  function ask(): void {
    window.clearTimeout(timer)
    if (question.value?.id !== now.value?.id || question.value?.revision !== now.value?.revision) question.value = now.value
  }
  watch(
    [now, watched],
    () => {
      window.clearTimeout(timer)
      if (watched.value || !now.value) ask()
      else timer = window.setTimeout(ask, QUIET)
    },
    { immediate: true },
  )
  onScopeDispose(() => window.clearTimeout(timer))
  const { answer, current } = useAsking(
    () => question.value,
    ({ id }, signal) => asked(api.GET('/api/sessions/{id}/tidy', { params: { path: { id } }, signal })),
    { keep: true },
  )
  watch(
    () => now.value?.id,
    () => (answer.value = null),
    { flush: 'sync' },
  )
  const found = computed(() => answer.value?.found ?? [])

  /** What is ticked, by what it is known by; what is not found any more is ticked no more. */
  const ticked = ref(new Map<string, FoundOut>())
  watch(found, (all) => {
    const there = new Map(all.map((one) => [keyOf(one), one]))
    ticked.value = new Map([...ticked.value.keys()].flatMap((key) => (there.has(key) ? [[key, there.get(key)!]] : [])))
    pictures.value = new Map()
  })
  function tick(some: FoundOut[], on: boolean): void {
    const all = new Map(ticked.value)
    for (const one of some.filter((x) => x.mends)) {
      if (on) all.set(keyOf(one), one)
      else all.delete(keyOf(one))
    }
    ticked.value = all
  }

  /** Small pictures of what was on view: now, and if it were mended. */
  const pictures = shallowRef(new Map<string, Both>())
  const asking = new Set<string>()
  async function draw(some: FoundOut[]): Promise<void> {
    const wanted = some.filter((one) => one.parameter && !pictures.value.has(keyOf(one)) && !asking.has(keyOf(one))).slice(0, 12)
    const of = found.value
    const id = session.data?.id
    if (!wanted.length || id === undefined || !current.value) return
    for (const one of wanted) asking.add(keyOf(one))
    try {
      await session.guarded(async () => {
        const body = { found: wanted.map((one) => ({ kind: one.kind, of: one.of, at: one.at })) }
        const drawn = await asked(api.POST('/api/sessions/{id}/tidy/pictures', { params: { path: { id } }, body }))
        if (of !== found.value) return
        pictures.value = new Map([...pictures.value, ...wanted.map((one, n): [string, Both] => [keyOf(one), drawn[n]!])])
      })
    } finally {
      for (const one of wanted) asking.delete(keyOf(one))
    }
  }

  /** Places that are marked on the overview: those that run like what is looked for. */
  const marks = shallowRef<{ start: number; end: number }[]>([])

  return { marks, watched, answer, current, found, ticked, tick, pictures, draw }
})
