// Which strips are in sight or nearly so: only they are made and asked for, however many are pinned.
import { onBeforeUnmount, onMounted, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { useBench } from './bench'

const AROUND = 1 // heights of what is in sight that are kept ready above and below it

export interface Near {
  strips: string[]
  /** How tall all strips above and below them are, in pixels. */
  above: number
  below: number
}

/** The strips within a scroller's window, and one such window on either side of it. */
export function stripsNear(strips: string[], heightOf: (id: string) => number, top: number, height: number): Near {
  const [from, to] = [top - AROUND * height, top + (1 + AROUND) * height]
  const near: Near = { strips: [], above: 0, below: 0 }
  let at = 0
  for (const id of strips) {
    const tall = heightOf(id)
    if (at >= to) near.below += tall
    else if (at + tall <= from) near.above += tall
    else near.strips.push(id)
    at += tall
  }
  return near
}

/** The strips near what is in sight (the ones that are there at all), and how far the others reach above and below. */
export function useNear(scroller: Ref<HTMLElement | null>): {
  near: ShallowRef<string[]>
  above: Ref<number>
  below: Ref<number>
} {
  const bench = useBench()
  const near = shallowRef<string[]>([])
  const above = ref(0)
  const below = ref(0)
  let sizes: ResizeObserver | null = null

  function look(): void {
    const box = scroller.value
    const found = stripsNear(bench.strips, bench.heightOf, box?.scrollTop ?? 0, box?.clientHeight || 800)
    above.value = found.above
    below.value = found.below
    if (found.strips.join('\n') !== near.value.join('\n')) near.value = found.strips
  }
  watch([() => bench.strips, () => bench.heights, () => bench.shared, () => bench.large, () => bench.under], look, {
    immediate: true,
  })
  onMounted(() => {
    sizes = new ResizeObserver(look)
    sizes.observe(scroller.value!)
    scroller.value!.addEventListener('scroll', look, { passive: true })
    look()
  })
  onBeforeUnmount(() => {
    sizes?.disconnect()
    scroller.value?.removeEventListener('scroll', look)
  })
  return { near, above, below }
}
