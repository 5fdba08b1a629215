// What a strip is about: its parameter, its lanes and which of them is heard when, its regions and what a preview brings.
import { computed } from 'vue'
import type { LaneOut, ParameterOut, RegionOut, TouchedOut } from '../api/client'
import { useBench } from './bench'
import { usePreview } from './preview'
import { useSession } from './session'

export type Content = ReturnType<typeof useContent>

/** The ink a parameter is drawn with: its family's, or that of all that steps or switches. */
export function inkOf(p: ParameterOut): string {
  return p.kind === 'continuous' ? p.family : p.kind
}

/** The same none at every preview, so that nothing is drawn anew for it. */
const NONE: never[] = []

export function useContent(id: string) {
  const session = useSession()
  const bench = useBench()
  const preview = usePreview()

  const owner = computed(() => session.parameters.get(id)!)
  const parameter = computed(() => owner.value.parameter)
  const track = computed(() => owner.value.track)
  const lanes = computed<LaneOut[]>(() => {
    const all = session.lanesOf.get(id) ?? []
    return bench.closer ? all.filter((lane) => lane.home === bench.closer) : all
  })
  const touched = computed<TouchedOut[]>(() => preview.touched.get(id) ?? [])
  /** Whether a hand is at work that changes what is drawn here at every move. */
  const inHand = computed(() => preview.gesture !== null && touched.value.length > 0)
  const isGuest = computed(() => !bench.pins.includes(id))
  const showsHeard = computed(() => bench.heardOn.includes(id))
  const shared = computed(() => track.value.parameters.filter((p) => bench.shares[id]?.includes(p.id)))
  const sharable = computed(() =>
    track.value.parameters.filter((p) => p.id !== id && session.lanesOf.has(p.id) && !shared.value.includes(p)),
  )
  const trackLane = computed(() => lanes.value.find((lane) => lane.home === 'track'))
  const inRegions = computed(() => lanes.value.some((lane) => lane.home !== 'track'))

  /** Lane id → the spans in which it is heard, if the track reads. */
  const heardIn = computed(() => {
    const all = new Map<string, { start: number; end: number }[]>()
    for (const { start, end, lane } of session.data?.speaking[id] ?? [])
      if (lane !== null) all.set(lane, [...(all.get(lane) ?? []), { start, end }])
    return all
  })
  /** The track's regions; of each whether it has a lane here. */
  const regions = computed(() => {
    const homes = new Set(lanes.value.map((lane) => lane.home))
    const mine = track.value.regions.filter((r) => !bench.closer || r.id === bench.closer)
    return inTime(mine).map((region) => ({ region, hasLane: homes.has(region.id) }))
  })
  /** The places of phrases on this parameter's lanes. */
  const places = computed(() => session.placedOn.get(id) ?? [])
  /** The rails of its lanes, while they are reshaped. */
  const rails = computed(() => {
    const wanted = preview.gesture ?? preview.written
    return wanted?.verb === 'reshape' ? (preview.change?.rails ?? []).filter((r) => r.parameter === id) : []
  })
  /** Regions where a preview would put them. */
  const placed = computed(() => {
    const mine = (preview.change?.regions ?? []).filter((r) => r.track === track.value.id)
    return mine.length ? inTime(mine) : NONE
  })

  /** The lane that is heard at a beat, else the one this strip is about. */
  function laneAt(beat: number): LaneOut | undefined {
    if (bench.closer) return lanes.value[0]
    return session.speakingAt(id, beat) ?? trackLane.value ?? lanes.value[0]
  }
  /** Where what is drawn at a beat belongs: the home of the lane that is heard there, else the track. */
  function homeAt(beat: number): string {
    return bench.closer ?? session.speakingAt(id, beat)?.home ?? 'track'
  }

  return {
    ...{ id, parameter, track, lanes, touched, inHand, isGuest, showsHeard, shared, sharable, trackLane, inRegions },
    ...{ heardIn, regions, placed, places, rails, laneAt, homeAt },
  }
}

/** By their start; of those that start together the longest first. */
function inTime<R extends Pick<RegionOut, 'start' | 'length'>>(list: R[]): R[] {
  return [...list].sort((one, other) => one.start - other.start || other.length - one.length)
}
