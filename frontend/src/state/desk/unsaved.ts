// Passes that are kept in the browser until they are saved: offered again after a window was left.
import { computed, shallowRef, watch } from 'vue'
import { usePreview } from '../preview'
import { useSession } from '../session'
import type { Controls } from './controls'
import { forget, keep, leftUnder, startKeeping, type Left } from './stored'
import type { Doing } from './live'
import type { Passes } from './passes'
import { useTransport } from './transport'

const KEEP_EVERY = 300 // ms

export function useUnsaved({ columns, put }: Controls, { grips, live, passes }: Doing, { asPass }: Passes) {
  const session = useSession()
  const preview = usePreview()
  const transport = useTransport()
  /** What was ridden before a page was left, to be taken up again or thrown away. */
  const left = shallowRef<Left | null>(null)
  const offered = computed(() => (left.value?.passes.length ? left.value.passes : null))

  let lately = 0
  /** Keep what there is; while a pass runs only now and then. */
  function save(runs = false): void {
    if (!left.value || (runs && performance.now() - lately < KEEP_EVERY)) return
    lately = performance.now()
    const going = asPass(transport.now())
    keep([...passes.value, ...(going ? [going] : [])])
  }
  window.addEventListener('pagehide', () => save())
  /** Look again at what is offered: two windows may have been offered the same. */
  function lookAgain(): void {
    if (left.value) left.value = leftUnder(left.value.names)
  }
  window.addEventListener('storage', ({ key }) => key && left.value?.names.includes(key) && lookAgain())
  watch(
    () => session.data?.id,
    (id) => {
      columns.value = []
      passes.value = []
      grips.value = new Map()
      live.value = null
      left.value = null
      if (id !== undefined) void startKeeping(id).then((found) => session.data?.id === id && (left.value = found))
    },
    { immediate: true },
  )
  function takeUp(): void {
    lookAgain()
    const found = offered.value?.filter((pass) => pass.controls.every((c) => session.parameters.has(c.parameter))) ?? []
    put(found.flatMap((pass) => pass.controls.map((c) => c.parameter)))
    passes.value = [...found, ...passes.value]
    save()
    turnDown()
  }
  function turnDown(): void {
    if (!left.value) return
    forget(left.value.names)
    left.value = { names: [], passes: [] }
  }
  // What was applied lies in the lanes now.
  watch(
    () => preview.spent,
    (now) => {
      if (now?.request.verb !== 'ride') return
      passes.value = []
      save()
    },
  )

  return { save, offered, takeUp, turnDown }
}
