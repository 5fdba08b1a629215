// Asks the server again whenever a question changes: once a frame at most, the newest answer wins.
import { onBeforeUnmount, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { ServerProblem, type Problem } from '../api/client'

export function useAsking<Q, A>(
  question: () => Q | null,
  ask: (question: Q, signal: AbortSignal) => Promise<A>,
): { answer: ShallowRef<A | null>; problem: Ref<Problem | null> } {
  const answer = shallowRef<A | null>(null)
  const problem = ref<Problem | null>(null)
  let running: AbortController | null = null
  let frame = 0

  async function now(): Promise<void> {
    frame = 0
    running?.abort()
    const wanted = question()
    if (wanted === null) {
      answer.value = null
      problem.value = null
      return
    }
    const mine = new AbortController()
    running = mine
    try {
      answer.value = await ask(wanted, mine.signal)
      problem.value = null
    } catch (error) {
      if (!(error instanceof ServerProblem)) {
        if (error instanceof DOMException && error.name === 'AbortError') return
        throw error
      }
      answer.value = null
      problem.value = error.gone ? null : error.problem
    }
  }
  watch(
    question,
    () => {
      frame ||= requestAnimationFrame(() => void now())
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    cancelAnimationFrame(frame)
    running?.abort()
  })
  return { answer, problem }
}
