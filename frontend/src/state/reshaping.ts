// What is asked of the reshape sheet, and what hands on rails add to it.
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { AnyRequest, ParameterOut, Schemas } from '../api/client'
import type { Typed } from '../lib/fields'
import { usePreview } from './preview'
import { useSelection } from './selection'
import { useSession } from './session'

export type Reshape = Extract<AnyRequest, { verb: 'reshape' }>
export type Move = Schemas['Move']
export type RailEnd = keyof Schemas['RailsOut']

export const ENDS: RailEnd[] = ['high_start', 'high_end', 'low_start', 'low_end']

/** A move that leaves lanes of a unit where they are. */
export function still(unit: string): Move {
  return { unit, times: 1, pivot: 'middle', about: 0, by: 0, shift: {}, to: {} }
}
function asksNothing(move: Move): boolean {
  const ends = [...Object.values(move.shift), ...Object.values(move.to)]
  return move.times === 1 && move.by === 0 && ends.every((x) => x == null)
}

export const useReshaping = defineStore('reshaping', () => {
  const session = useSession()
  const selection = useSelection()
  const preview = usePreview()
  const part = ref<'rails' | 'same'>('rails')
  const moves = ref<Record<string, Move>>({})
  const before = ref<Typed>({ beats: 0, text: '0 ms' })
  const after = ref<Typed>({ beats: 0, text: '0 ms' })
  const resting = ref(true)
  const tracks = ref<string[]>([])

  /** The units of what is chosen, each with a parameter of it. */
  const units = computed(() => {
    const all = new Map<string, ParameterOut>()
    const note = (p?: ParameterOut) => {
      if (p?.kind === 'continuous' && !all.has(p.axis.unit)) all.set(p.axis.unit, p)
    }
    for (const id of selection.lanes) note(session.parameters.get(session.lanes.get(id)?.parameter ?? '')?.parameter)
    for (const id of tracks.value) session.tracks.get(id)?.parameters.forEach((p) => p.family === 'level' && note(p))
    return all
  })
  function request(some: Move[]): Reshape {
    return {
      verb: 'reshape',
      lanes: selection.lanes,
      start: selection.range?.start ?? null,
      end: selection.range?.end ?? null,
      moves: some,
      before: before.value.beats,
      after: after.value.beats,
      resting: resting.value,
      tracks: tracks.value,
    }
  }
  const written = computed(() =>
    request(Object.values(moves.value).filter((move) => units.value.has(move.unit) && !asksNothing(move))),
  )
  const moveOf = (unit: string) => moves.value[unit] ?? still(unit)
  function change(unit: string, some: Partial<Move>): void {
    moves.value = { ...moves.value, [unit]: { ...moveOf(unit), ...some } }
  }
  // What was applied is not asked for once more.
  watch(
    () => preview.spent,
    (now) => now?.request.verb === 'reshape' && (moves.value = {}),
  )

  return { part, moves, before, after, resting, tracks, units, written, request, moveOf, change }
})
