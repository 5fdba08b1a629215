// How tall strips are: they share the room, but for those that were dragged and the one that is drawn large.
import { computed, ref, type ComputedRef, type Ref } from 'vue'

/** How tall strips are: at least so many pixels, and more where there is room. */
export const SIZES = { low: 62, middle: 96, tall: 190 } as const
export type Size = keyof typeof SIZES
const TALLEST = 420 // of strips that share the room
export const [LEAST_DRAGGED, MOST_DRAGGED] = [44, 640] as const

export function makeHeights(strips: ComputedRef<string[]>, going: Ref<string | null>) {
  /** Heights that were dragged, by strip; all others share the room. */
  const heights = ref<Record<string, number>>({})
  const size = ref<Size>('middle')
  /** The height of the window that the strips are seen through. */
  const room = ref(500)
  /** The strip that is drawn large for fine work. */
  const large = ref<string | null>(null)

  /** Pixels of what is unfolded under a strip's chart. */
  const under = ref<Record<string, number>>({})
  const underOf = (parameter: string) => under.value[parameter] ?? 0
  function unfold(parameter: string, pixels: number): void {
    if (underOf(parameter) === pixels) return
    const others = Object.fromEntries(Object.entries(under.value).filter(([id]) => id !== parameter))
    under.value = pixels ? { ...others, [parameter]: pixels } : others
  }

  /** What is left for a strip that shares the room with the others; no less than its size says. */
  const shared = computed(() => {
    const own = strips.value.flatMap((id) => heights.value[id] ?? [])
    const sharing = Math.max(strips.value.length - own.length, 1)
    const left = [...own, ...strips.value.map(underOf)].reduce((rest, height) => rest - height, room.value)
    return Math.max(Math.min(Math.floor(left / sharing), TALLEST), SIZES[size.value])
  })
  function chartOf(parameter: string): number {
    if (large.value && strips.value.includes(large.value))
      return parameter === large.value ? Math.max(room.value - SIZES.low, SIZES.tall) : SIZES.low
    return heights.value[parameter] ?? shared.value
  }
  const heightOf = (parameter: string) => chartOf(parameter) + underOf(parameter)
  function setHeight(parameter: string, height: number): void {
    heights.value = { ...heights.value, [parameter]: Math.min(Math.max(height, LEAST_DRAGGED), MOST_DRAGGED) }
  }
  /** Low, middle, tall, and low again; heights that were dragged are let go of. */
  function nextSize(): void {
    const all = Object.keys(SIZES) as Size[]
    size.value = all[(all.indexOf(size.value) + 1) % all.length]!
    heights.value = {}
  }
  /** Draw a strip large, or all as they were. */
  function toggleLarge(parameter: string | undefined): void {
    large.value = large.value || !parameter ? null : parameter
    if (large.value) going.value = large.value
  }

  return { heights, size, room, large, shared, under, unfold, chartOf, heightOf, setHeight, nextSize, toggleLarge }
}
