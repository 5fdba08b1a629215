// What is worked out beforehand for a request on a sheet: the question changes with the request and with the revision.
import { computed, type ComputedRef } from 'vue'
import { useSession } from './session'

/** A question for `useAsking`: a sheet's request on the session as it stands; none where the sheet has none. */
export function askedOf<R>(request: ComputedRef<R | null>): () => { id: number; revision: number; request: R } | null {
  const session = useSession()
  const question = computed(() =>
    request.value && session.data ? { id: session.data.id, revision: session.data.revision, request: request.value } : null,
  )
  return () => question.value
}
