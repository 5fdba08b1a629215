// A tape: a stretch of the time axis three windows wide, laid out once and only moved along while panning.
import { computed, onBeforeUnmount, onMounted, shallowRef, watch, type Ref } from 'vue'
import { useBench } from '../state/bench'
import { xOf, type View } from '../lib/geometry'

/** Moves `element` with the window; gives the beats the tape reaches over, and where on it a beat lies. */
export function useTape(element: Ref<HTMLElement | null>) {
  const bench = useBench()
  const base = shallowRef<View>(bench.view)
  const width = computed(() => base.value.end - base.value.start)
  const reach = computed<View>(() => ({ start: base.value.start - width.value, end: base.value.end + width.value }))
  const xAt = (beat: number) => xOf(beat, base.value, bench.plotWidth)
  let frame = 0

  function move(): void {
    frame = 0
    const shift = ((bench.view.start - base.value.start) / width.value) * bench.plotWidth
    if (element.value) element.value.style.transform = `translateX(${-Math.round(shift)}px)`
  }
  watch([() => bench.view, () => bench.plotWidth], ([view]) => {
    const zoomed = Math.abs(view.end - view.start - width.value) > width.value * 1e-9
    if (zoomed || Math.abs(view.start - base.value.start) > width.value * 0.9) base.value = view
    frame ||= requestAnimationFrame(move)
  })
  onMounted(move)
  onBeforeUnmount(() => cancelAnimationFrame(frame))
  return { reach, xAt }
}
