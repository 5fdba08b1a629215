// Riding by keys, wherever the focus is: 1 to 9 take controls in hand, up and down move all that are; a hand stays on for a
// moment after the last press.
import { onBeforeUnmount, onMounted } from 'vue'
import { fromAxis, toAxis } from '../../lib/geometry'
import { inField } from '../keys'
import { useSession } from '../session'
import { useRiding } from './riding'

/** So long after the last press hands let go, in ms. */
const LINGERS = 400

export function useDeskKeys(focused: () => string | undefined) {
  const session = useSession()
  const riding = useRiding()
  const mine = new Set<string>()
  let timer = 0

  function key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || inField(event)) return
    const column = /^[1-9]$/.test(event.key) ? riding.known[Number(event.key) - 1] : undefined
    if (column) riding.toggleInHand(column)
    const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
    const one = focused()
    const ids = riding.inHand.length ? riding.inHand : one ? [one] : []
    if (way && ids.length) step(event, ids, way)
    if (!column && !way) return
    event.preventDefault()
    event.stopPropagation()
  }
  function step(event: KeyboardEvent, ids: string[], way: number): void {
    const far = event.altKey ? 'fine' : event.shiftKey ? 'coarse' : 'usual'
    const when = riding.beatOf(event)
    for (const id of ids)
      riding.whenKnown(id, () => stepOne(id, session.parameters.get(id)!.parameter.axis.nudges[far] * way, when))
  }
  function stepOne(id: string, by: number, when: number): void {
    if (!mine.has(id)) riding.grab(id, undefined, when)
    mine.add(id)
    riding.move(id, stepped(id, by), when)
    window.clearTimeout(timer)
    timer = window.setTimeout(letGo, LINGERS)
  }
  function stepped(id: string, by: number): number {
    const p = session.parameters.get(id)!.parameter
    if (riding.trims(id)) return riding.valueOf(id) + by
    const y = toAxis(p, riding.valueOf(id)) + by
    return Math.min(Math.max(fromAxis(p, y), p.low), p.high)
  }
  function letGo(): void {
    for (const id of mine) riding.letGo(id)
    mine.clear()
  }
  onMounted(() => window.addEventListener('keydown', key))
  onBeforeUnmount(() => {
    window.removeEventListener('keydown', key)
    window.clearTimeout(timer)
    letGo()
  })
}
