// Which strips are on view: what is pinned, what a preview brings along, and what shares a strip or draws what is heard.
import { computed, ref } from 'vue'
import { toggled, useSelection } from '../selection'
import { useSession } from '../session'

/** `inRegion` gives the parameters of the region that is looked at closely, or nothing while none is. */
export function makeStrips(inRegion: () => string[] | null) {
  const session = useSession()
  const selection = useSelection()
  const pins = ref<string[]>([])
  /** Strips that a preview brings along. */
  const guests = ref<string[]>([])
  /** Parameters whose strips also draw what is heard. */
  const heardOn = ref<string[]>([])
  /** Parameters that share another one's strip: its id to theirs. */
  const shares = ref<Record<string, string[]>>({})
  const sets = ref<{ name: string; pins: string[] }[]>([])

  /** What is pinned, and below the source what a preview brings along; of a region looked at closely its own. */
  const strips = computed(() => {
    const closely = inRegion()
    if (closely) return closely
    const pinned = pins.value.filter((p) => session.parameters.has(p))
    const brought = guests.value.filter((p) => !pinned.includes(p) && session.parameters.has(p))
    const sources = new Set(selection.lanes.map((id) => session.lanes.get(id)?.parameter))
    const at = pinned.findLastIndex((p) => sources.has(p)) + 1 || pinned.length
    return [...pinned.slice(0, at), ...brought, ...pinned.slice(at)]
  })

  function togglePin(parameter: string): void {
    pins.value = toggled(pins.value, parameter)
  }
  function pin(parameter: string): void {
    if (!pins.value.includes(parameter)) pins.value = [...pins.value, parameter]
  }
  /** Put one strip in another's place, so that stepping does not fill the bench. */
  function replace(before: string, after: string): void {
    if (pins.value.includes(after)) return
    pins.value = pins.value.includes(before) ? pins.value.map((p) => (p === before ? after : p)) : [...pins.value, after]
  }
  /** Pin the lanes of a parameter's name and family, on every track that uses it, and nothing else. */
  function showEvery(parameter: string): void {
    const wanted = session.parameters.get(parameter)?.parameter
    if (!wanted) return
    const alike = (session.data?.lanes ?? []).filter((lane) => {
      const other = session.parameters.get(lane.parameter)!.parameter
      return other.family === wanted.family && other.name === wanted.name
    })
    pins.value = [...new Set(alike.map((lane) => lane.parameter))]
  }
  function toggleShare(strip: string, parameter: string): void {
    shares.value = { ...shares.value, [strip]: toggled(shares.value[strip] ?? [], parameter) }
  }
  function toggleHeard(parameter: string): void {
    heardOn.value = toggled(heardOn.value, parameter)
  }
  /** What is heard, on every strip or on none. */
  function toggleHeardEverywhere(): void {
    heardOn.value = strips.value.every((p) => heardOn.value.includes(p)) ? [] : [...strips.value]
  }

  return {
    ...{ pins, guests, heardOn, shares, sets, strips, togglePin, pin, replace, showEvery },
    ...{ toggleShare, toggleHeard, toggleHeardEverywhere },
  }
}
