// One region looked at closely, in its own time: its bars, its strips, and the window to go back to.
import { computed, ref, type Ref } from 'vue'
import type { View } from '../../lib/geometry'
import { useSelection } from '../selection'
import { useSession } from '../session'

export function makeCloser(cursor: Ref<number>) {
  const session = useSession()
  const selection = useSelection()
  /** The region that is looked at. */
  const closer = ref<string | null>(null)
  /** Parameters whose automation is begun in it. */
  const begun = ref<string[]>([])
  let wide: View | null = null

  /** Bars to rule by: the session's; of a region looked at closely, from its start on in the meter it starts in. */
  const bars = computed(() => {
    const all = session.data?.bars ?? []
    const region = session.regions.get(closer.value ?? '')?.region
    const meter = region && (all.findLast((b) => b.beat <= region.start + 1e-9) ?? all[0])
    if (!region || !meter) return all
    const long = (meter.count * 4) / meter.unit
    const count = Math.min(Math.ceil(region.length / long) + 1, 2000)
    return Array.from({ length: count }, (_, i) => ({ ...meter, number: i + 1, beat: region.start + i * long }))
  })
  /** The parameters that have automation in it, or are about to; nothing while no region is looked at. */
  function inRegion(): string[] | null {
    if (!closer.value) return null
    const there = (session.data?.lanes ?? []).filter((x) => x.home === closer.value).map((x) => x.parameter)
    return [...new Set([...there, ...begun.value])]
  }
  /** Whether a parameter is one of the track whose region is looked at. */
  const isOfTrack = (parameter: string) =>
    session.regions.get(closer.value ?? '')?.track.id === session.parameters.get(parameter)?.track.id
  /** Begin a parameter's automation in the region that is looked at: an empty strip, to draw on. */
  function begin(parameter: string): void {
    if (!inRegion()?.includes(parameter)) begun.value = [...begun.value, parameter]
  }
  /** Look at one region in its own time, or back at the session; the window that then is on view, if it is another. */
  function look(id: string | null, view: View): View | null {
    const region = id ? session.regions.get(id)?.region : undefined
    if (region && id) {
      wide ??= view
      begun.value = []
      closer.value = id
      selection.regions = [id]
      selection.finding = null
      cursor.value = region.start
      return { start: region.start, end: region.start + region.length }
    }
    closer.value = null
    const before = wide
    wide = null
    return before
  }

  return { closer, bars, inRegion, isOfTrack, begin, look }
}
