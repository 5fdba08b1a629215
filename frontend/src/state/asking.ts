// Asking the server: at once, then once a frame at most; the newest question wins, refusals are said, bugs are not swallowed.
import { computed, onScopeDispose, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { ServerProblem, type Problem } from '../api/client'
import { isAbort } from '../lib/abort'
import { useSession } from './session'

export interface Asking<A> {
  /** The newest answer; with `keep` the one before stays until then. */
  answer: ShallowRef<A | null>
  problem: Ref<Problem | null>
  waiting: Ref<boolean>
  /** Whether the answer, or the problem, is that of the question as it stands now. */
  current: ComputedRef<boolean>
  /** Ask once more, though the question is the same. */
  again: () => void
}

/**
 * Asks whenever a question changes (compared by identity, so a question that still stands is the same object).
 * No question, no answer. `keep` leaves the last answer where a later question is refused or has gone; `patient` lets a
 * call that is on its way come back before the next one is made, for what is asked at every move of a pointer.
 */
export function useAsking<Q, A>(
  question: () => Q | null,
  ask: (question: Q, signal: AbortSignal) => Promise<A>,
  { keep = false, patient = () => false }: { keep?: boolean; patient?: () => boolean } = {},
): Asking<A> {
  const session = useSession()
  const answer = shallowRef<A | null>(null)
  const problem = ref<Problem | null>(null)
  const waiting = ref(false)
  const settled = shallowRef<Q | null>(null)
  const current = computed(() => settled.value === question())
  let running: AbortController | null = null
  let frame = 0 // the one after which it may be asked again
  let more = false
  let late = false
  let unheard = false

  function stop(): void {
    running?.abort()
    running = null
    waiting.value = false
  }
  async function now(): Promise<void> {
    if (running && patient()) {
      late = true
      return
    }
    stop()
    const wanted = question()
    if (wanted === null) {
      if (!keep) answer.value = null
      problem.value = settled.value = null
      return
    }
    const mine = (running = new AbortController())
    const state = session.data
    waiting.value = true
    try {
      const found = await ask(wanted, mine.signal)
      if (running !== mine) return
      answer.value = found
      problem.value = null
      settled.value = wanted
    } catch (error) {
      if (isAbort(error) || running !== mine) return
      if (!(error instanceof ServerProblem)) throw error
      if (!keep) answer.value = null
      settled.value = wanted
      unheard = error.gone
      problem.value = error.gone || error.status === 409 ? null : error.problem
      session.away(error, state)
    } finally {
      if (running === mine) stop()
      if (late) {
        late = false
        again()
      }
    }
  }
  const again = () => {
    if (frame) {
      more = true
      return
    }
    frame = requestAnimationFrame(() => {
      frame = 0
      if (more) again()
    })
    more = false
    void now()
  }
  watch(question, again, { immediate: true })
  // What a server that was away had no answer to is asked again once it is back.
  watch(
    () => session.gone,
    (gone) => {
      if (!gone && unheard) again()
      unheard &&= gone
    },
  )
  onScopeDispose(() => {
    cancelAnimationFrame(frame)
    stop()
  })
  return { answer, problem, waiting, current, again }
}
