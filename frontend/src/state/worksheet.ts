// The worksheet: the chosen verb, what its sheets share, and settings that a sheet takes up when it opens.
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import type { AnyRequest, ShapeKind } from '../api/client'
import type { VerbId } from '../lib/table'
import { useSelection } from './selection'
import { useSession } from './session'

/** Folded or not, as in the session before. */
function foldedLast(): boolean {
  return localStorage.getItem('velmot.folded') !== 'no'
}

/** The requests whose sheets take up settings. */
type Reopenable = Extract<AnyRequest, { verb: 'carry' | 'retarget' | 'follow' }>
export function isReopenable(request: { verb?: unknown }): request is Reopenable {
  return request.verb === 'carry' || request.verb === 'retarget' || request.verb === 'follow'
}

export const useWorksheet = defineStore('worksheet', () => {
  const session = useSession()
  const selection = useSelection()
  const verb = ref<VerbId>('carry')
  /** Whether the worksheet is folded into a sentence, and the field of it that is being changed in place. */
  const folded = ref(foldedLast())
  /** Whether it lies over the strips for now, as high as it needs, though it is folded otherwise. */
  const over = ref(false)
  const editing = ref<string | null>(null)
  /** Where the words of that field stand, in pixels from the left. */
  const editingAt = ref(0)
  watch(folded, (now) => over.value || localStorage.setItem('velmot.folded', now ? 'yes' : 'no'))
  watch([verb, folded], () => (editing.value = null))
  /** What the embed sheet does. */
  const embedding = ref<'embed' | 'lift' | 'fill' | 'precedence'>('embed')
  /** What the place verb does: place something, keep a range as a phrase, change the chosen places, or a phrase itself. */
  const placing = ref<'place' | 'keep' | 'change' | 'phrase'>('place')
  /** What to place: a phrase of the session, one of the book by its number, or a kind of shape. */
  const what = ref('')
  /** What the draw verb does with a drag on a strip. */
  const drawing = ref<{ way: 'line' | 'free' | 'shape'; tolerance: number; kind: ShapeKind }>({
    way: 'free',
    tolerance: 0.5,
    kind: 'triangle',
  })
  /** Whether what follows a stretched range stays, or moves along with its end. */
  const following = ref<'stays' | 'moves along'>('stays')
  /** Whether what is asked for has been confirmed, where a sheet wants that. */
  const confirmed = ref(true)
  watch(verb, () => (confirmed.value = true))

  /** A track whose mode was pointed at, and whether it reads. */
  const pointed = shallowRef<{ track: string; reads: boolean } | null>(null)
  /** Go where its mode is set. */
  function setMode(track: string, reads: boolean): void {
    pointed.value = { track, reads }
    verb.value = 'modes'
  }

  const reopened = shallowRef<AnyRequest | null>(null)
  /** Put a request's settings on its sheet, and its lanes and range on the bench (or keep the lanes given). */
  function reopen(request: AnyRequest, keep?: string[]): void {
    if (!isReopenable(request)) return
    reopened.value = request
    verb.value = request.verb
    if (keep) {
      selection.lanes = keep
      return
    }
    if (request.start != null && request.end != null) selection.range = { start: request.start, end: request.end }
    if (request.verb === 'follow') return
    const wanted = request.verb === 'carry' ? request.lanes : [request.lane]
    selection.lanes = wanted.filter((id) => session.lanes.has(id))
  }
  /** The reopened settings of a verb, once. */
  function takeReopened<V extends AnyRequest['verb']>(wanted: V): Extract<AnyRequest, { verb: V }> | null {
    const request = reopened.value
    if (request?.verb !== wanted) return null
    reopened.value = null
    return request as Extract<AnyRequest, { verb: V }>
  }

  return {
    verb,
    folded,
    over,
    foldedLast,
    editing,
    editingAt,
    embedding,
    placing,
    what,
    drawing,
    following,
    confirmed,
    pointed,
    setMode,
    reopened,
    reopen,
    takeReopened,
  }
})
