// Outlines: how far the sound of tracks reaches, fetched once for each sound and kept, for the silhouettes behind strips.
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { api, asked, ServerProblem, type TrackOut } from '../api/client'
import { useSession } from './session'

export interface Outline {
  perSecond: number
  columns: Uint8Array
}

/** The farthest a sound reaches between two moments, in seconds: 0 to 1. */
export function reachOf({ perSecond, columns }: Outline, start: number, end: number): number {
  const first = Math.max(Math.floor(start * perSecond), 0)
  const last = Math.min(Math.max(Math.ceil(end * perSecond), first + 1), columns.length)
  let most = 0
  for (let i = first; i < last; i++) if (columns[i]! > most) most = columns[i]!
  return most / 255
}

export const useOutlines = defineStore('outlines', () => {
  const session = useSession()
  /** By what a track sounds like, which is a text that changes when that does. */
  const known = shallowRef(new Map<string, Outline | null>())
  const key = (track: TrackOut) => `${session.data?.id} ${track.id} ${track.sounds}`

  /** A track's outline, asked for where it is not known; what was known of it before stays until then. */
  function of(track: TrackOut): Outline | null {
    if (!track.sound) return null
    const wanted = key(track)
    if (!known.value.has(wanted)) void ask(track, wanted)
    return known.value.get(wanted) ?? null
  }
  async function ask(track: TrackOut, wanted: string): Promise<void> {
    known.value.set(wanted, null)
    try {
      const call = { params: { path: { id: session.data!.id }, query: { track: track.id } } }
      const found = await asked(api.GET('/api/sessions/{id}/outline', call))
      const columns = Uint8Array.from(atob(found.columns), (c) => c.charCodeAt(0))
      known.value = new Map(known.value).set(wanted, { perSecond: found.per_second, columns })
    } catch (error) {
      if (!(error instanceof ServerProblem)) throw error
      known.value.delete(wanted) // asked for again with the next drawing
    }
  }
  return { known, of }
})
