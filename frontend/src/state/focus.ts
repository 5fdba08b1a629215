// Where the keys go on: what was pressed by pointer, or finished with Enter, gives the focus back to the bench. Who goes by
// Tab keeps it where it is.
import { onBeforeUnmount, onMounted } from 'vue'
import { useBench } from './bench'
import { useSelection } from './selection'
import { useSession } from './session'

/** What is pressed, and keeps the focus only for those who came by key. */
const PRESSED = 'button, a, summary, label, input[type=radio], input[type=checkbox], [role=button]'
/** What keeps the focus whoever pressed it: lists and dialogs that are open, and what is dragged. */
const KEEPS = '[role=dialog], [role=listbox], .opened, .el-select, [role=slider], .flag, .plot'
/** Fields whose text is finished with Enter. */
const TYPED = 'input.words-field, input.words'

export function useFocusOnBench(): void {
  const session = useSession()
  const selection = useSelection()
  const bench = useBench()
  let byPointer = false
  let used = false

  /** The strip the keys are about: of the chosen lane, else the first that is there. */
  function strip(): HTMLElement | null {
    const wanted = selection.lanes.map((id) => session.lanes.get(id)?.parameter).filter((p) => p && bench.strips.includes(p))
    const plots = [...document.querySelectorAll<HTMLElement>('[data-strip] > .plot')]
    return plots.find((plot) => wanted.includes(plot.parentElement!.dataset['strip'])) ?? plots[0] ?? null
  }
  function giveBack(): void {
    strip()?.focus({ preventScroll: true })
  }
  function clicked(event: MouseEvent): void {
    const target = event.target as HTMLElement
    if (!byPointer || !target.closest(PRESSED) || target.closest(KEEPS)) return
    // Once whoever heard the click is done: it may have opened or focused something.
    window.setTimeout(() => {
      const here = document.activeElement
      const nowhere = !here || here === document.body
      if (nowhere || (here.matches(PRESSED) && !here.closest(KEEPS))) giveBack()
    })
  }
  function entered(event: KeyboardEvent): void {
    const target = event.target as HTMLElement
    if (event.key !== 'Enter' || event.ctrlKey || event.metaKey || !target.matches(TYPED)) return
    window.setTimeout(() => {
      if (document.activeElement === target && target.getAttribute('aria-invalid') !== 'true') giveBack()
    })
  }
  /** What had the focus is gone, or can be pressed no more: the keys go on from the strip, never from nothing. */
  function fallen(): void {
    const here = document.activeElement
    if (!used || (here && here !== document.body) || !document.hasFocus() || document.querySelector('dialog[open]')) return
    // Who pressed Apply by key goes on beside what it came to.
    const result = wasIn?.matches('.result') && !byPointer ? wasIn : null
    if (result?.isConnected) result.focus()
    else giveBack()
  }
  let wasIn: HTMLElement | null = null
  const came = (event: FocusEvent) => (wasIn = (event.target as HTMLElement).closest<HTMLElement>('.result'))
  const changes = new MutationObserver(() => window.setTimeout(fallen, 40))
  const pointed = () => (byPointer = used = true)
  const typed = () => {
    byPointer = false
    used = true
  }
  onMounted(() => {
    window.addEventListener('pointerdown', pointed, true)
    window.addEventListener('keydown', typed, true)
    window.addEventListener('click', clicked)
    window.addEventListener('keydown', entered)
    window.addEventListener('focusin', came)
    changes.observe(document.body, { childList: true, subtree: true, attributeFilter: ['disabled', 'hidden'] })
  })
  onBeforeUnmount(() => {
    changes.disconnect()
    window.removeEventListener('focusin', came)
    window.removeEventListener('pointerdown', pointed, true)
    window.removeEventListener('keydown', typed, true)
    window.removeEventListener('click', clicked)
    window.removeEventListener('keydown', entered)
  })
}
