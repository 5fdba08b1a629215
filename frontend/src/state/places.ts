// The places of the bench, gone through by key: ledger, strips, worksheet, what it comes to. Each is come back to where it was left.
import { onBeforeUnmount, onMounted } from 'vue'
import { useKeys } from './keys'

/** Each place, and what has the focus in it at first. */
const PLACES = [
  { place: '.ledger', first: '.list [tabindex="0"], input' },
  { place: '.stage', first: '.plot[tabindex="0"]' },
  { place: '.worksheet .box:not([hidden]), .worksheet .sentence', first: 'input, [tabindex="0"], button' },
  { place: '.result', first: 'button:not(:disabled)' },
]

export function usePlaces(): void {
  const left = new Map<number, HTMLElement>()
  const at = () => PLACES.findIndex(({ place }) => document.activeElement?.closest(place))

  function noted(event: FocusEvent): void {
    const here = at()
    if (here >= 0) left.set(here, event.target as HTMLElement)
  }
  function go(by: 1 | -1): void {
    const here = at()
    for (let n = 1; n <= PLACES.length; n++) {
      const next = (Math.max(here, by > 0 ? -1 : 0) + by * n + PLACES.length * n) % PLACES.length
      const { place, first } = PLACES[next]!
      const box = [...document.querySelectorAll<HTMLElement>(place)].find((x) => x.getClientRects().length)
      const before = left.get(next)
      const kept = before?.isConnected && before.getClientRects().length ? [before] : []
      for (const wanted of [...kept, ...(box?.querySelectorAll<HTMLElement>(first) ?? [])]) {
        wanted.focus()
        if (document.activeElement === wanted) return
      }
    }
  }
  useKeys({ 'next place': () => go(1), 'previous place': () => go(-1) })
  onMounted(() => window.addEventListener('focusin', noted))
  onBeforeUnmount(() => window.removeEventListener('focusin', noted))
}
