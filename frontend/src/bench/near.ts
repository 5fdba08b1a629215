// Which strips are in sight or nearly so: only theirs is asked for, however many are pinned.
import { onBeforeUnmount, onMounted, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { useBench } from '../state/bench'

const AROUND = 1 // heights of what is in sight that are kept ready above and below it

/** The strips within a scroller's window, and one such window on either side of it. */
export function stripsNear(strips: string[], heightOf: (id: string) => number, top: number, height: number): string[] {
  const [from, to] = [top - AROUND * height, top + (1 + AROUND) * height]
  const near: string[] = []
  let at = 0
  for (const id of strips) {
    const end = at + heightOf(id)
    if (at < to && end > from) near.push(id)
    at = end
  }
  return near
}

export function useNear(scroller: Ref<HTMLElement | null>): ShallowRef<string[]> {
  const bench = useBench()
  const near = shallowRef<string[]>([])
  let sizes: ResizeObserver | null = null

  function look(): void {
    const box = scroller.value
    const found = stripsNear(bench.strips, bench.heightOf, box?.scrollTop ?? 0, box?.clientHeight || 800)
    if (found.join('\n') !== near.value.join('\n')) near.value = found
  }
  watch([() => bench.strips, () => bench.heights], look, { immediate: true })
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
  return near
}

/** A list in pieces of at most `most`: what one request may ask for. */
export function inPieces<T>(list: T[], most = 400): T[][] {
  return Array.from({ length: Math.ceil(list.length / most) }, (_, i) => list.slice(i * most, (i + 1) * most))
}
