// What a step changed, put onto the session as it was.
import type { SessionOut, Stepped } from '../api/client'

/** The session after a step; what the step does not name stays the very same. */
export function patched(before: SessionOut, step: Stepped): SessionOut {
  const known = new Map(before.tracks.map((track) => [track.id, track]))
  const tracks = new Map(step.tracks.map((track) => [track.id, track]))
  const lanes = new Map(before.lanes.map((lane) => [lane.id, lane]))
  for (const id of step.gone) lanes.delete(id)
  for (const lane of step.lanes) lanes.set(lane.id, lane)
  const order = step.order ?? before.lanes.map((lane) => lane.id)
  const { revision, name, precedence, undo, redo, activity, matches, damaged } = step
  return {
    ...before,
    ...{ revision, name, precedence, undo, redo, activity, matches, damaged },
    tracks: (step.track_order ?? before.tracks.map((track) => track.id)).map((id) => tracks.get(id) ?? known.get(id)!),
    lanes: order.flatMap((id) => lanes.get(id) ?? []),
    linked: step.linked ?? before.linked,
    markers: step.markers ?? before.markers,
    notes: step.notes ?? before.notes,
    alternatives: step.alternatives ?? before.alternatives,
    first: null, // as it was before the step
    speaking: { ...before.speaking, ...step.speaking },
  }
}
