// What is selected: lanes, a range, points, regions, and a finding.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Finding } from '../api/client'
import { useSession } from './session'

export interface Range {
  start: number
  end: number
}

export const useSelection = defineStore('selection', () => {
  const session = useSession()
  /** The chosen lanes, by id: what verbs work on. */
  const lanes = ref<string[]>([])
  const range = shallowRef<Range | null>(null)
  /** Picked points: lane id to indices. They go when the lane they count in changes under them. */
  const points = shallowRef<Record<string, number[]>>({})
  const pointCount = computed(() => Object.values(points.value).reduce((sum, some) => sum + some.length, 0))
  const pointRows = computed(() => Object.entries(points.value).map(([lane, some]) => ({ lane, points: some })))
  const regions = ref<string[]>([])
  /** The chosen placements, by id. */
  const places = ref<string[]>([])
  /** The chosen markers, by id. */
  const markers = ref<string[]>([])
  const finding = shallowRef<Finding | null>(null)

  watch(
    () => session.lanes,
    (now, before) => {
      const same = (id: string) => now.get(id)?.points === before.get(id)?.points
      points.value = Object.fromEntries(Object.entries(points.value).filter(([id]) => now.has(id) && same(id)))
      const left = lanes.value.filter((id) => now.has(id))
      if (left.length !== lanes.value.length) lanes.value = left
      places.value = places.value.filter((id) => session.placements.has(id))
      regions.value = regions.value.filter((id) => session.regions.has(id))
      finding.value = null
    },
  )

  watch(
    () => session.data?.markers,
    (now) => {
      const known = new Set((now ?? []).map((m) => m.id))
      if (markers.value.some((id) => !known.has(id))) markers.value = markers.value.filter((id) => known.has(id))
    },
  )

  /** Choose one lane, or add it to the chosen ones. */
  function choose(lane: string, joining = false): void {
    if (!lanes.value.includes(lane)) lanes.value = joining ? [...lanes.value, lane] : [lane]
  }
  /** Let go of the range, the points and the regions. */
  function letGo(): void {
    regions.value = []
    places.value = []
    markers.value = []
    range.value = null
    points.value = {}
  }

  return { lanes, range, points, pointCount, pointRows, regions, places, markers, finding, choose, letGo }
})

/** A list with an entry taken out if it is there, else added. */
export function toggled(list: string[], id: string): string[] {
  return list.includes(id) ? list.filter((x) => x !== id) : [...list, id]
}
