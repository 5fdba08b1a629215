// One Tab stop for a group of controls: the one that was used last, else the first; arrow keys go from one to the next.
import { onBeforeUnmount, watch, type Ref } from 'vue'

const CONTROLS = 'button:not(:disabled), a[href], [role=slider]'
const WAYS: Record<string, 1 | -1> = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }

/** Of what matches `which` in a group only one can be come to by Tab; `keys` are the arrows that walk through them. */
export function useOneStop(group: Ref<HTMLElement | null>, which = CONTROLS, keys = Object.keys(WAYS)): void {
  let current: HTMLElement | null = null
  let changes: MutationObserver | null = null
  const controls = () => [...(group.value?.querySelectorAll<HTMLElement>(which) ?? [])]

  function settle(): void {
    const all = controls()
    if (!current || !all.includes(current)) current = all.find((x) => x.matches('[aria-current=true], .on')) ?? all[0] ?? null
    for (const one of all) {
      const stop = one === current ? 0 : -1
      if (one.tabIndex !== stop) one.tabIndex = stop
    }
  }
  function came(event: FocusEvent): void {
    const one = (event.target as HTMLElement).closest<HTMLElement>(which)
    if (!one || one === current) return
    current = one
    settle()
  }
  function walked(event: KeyboardEvent): void {
    const way = WAYS[event.key]
    const all = controls()
    const at = all.indexOf(event.target as HTMLElement)
    if (!way || at < 0 || !keys.includes(event.key) || event.ctrlKey || event.metaKey || event.altKey) return
    event.preventDefault()
    event.stopPropagation()
    all[(at + way + all.length) % all.length]?.focus()
  }
  // The group may come and go by itself.
  watch(
    group,
    (now) => {
      changes?.disconnect()
      if (!now) return
      settle()
      changes = new MutationObserver(settle)
      changes.observe(now, { childList: true, subtree: true, attributeFilter: ['disabled'] })
      now.addEventListener('focusin', came)
      now.addEventListener('keydown', walked)
    },
    { flush: 'post', immediate: true },
  )
  onBeforeUnmount(() => changes?.disconnect())
}
