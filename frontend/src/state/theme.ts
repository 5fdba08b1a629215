// The papers and inks: light, or dark for dark rooms; as the system wishes unless one was chosen.
import { ref } from 'vue'

export type Papers = 'light' | 'dark'
const KEY = 'velmot.papers'
const wish = window.matchMedia('(prefers-color-scheme: dark)')

function chosen(): Papers | null {
  const said = localStorage.getItem(KEY)
  return said === 'light' || said === 'dark' ? said : null
}
const system = (): Papers => (wish.matches ? 'dark' : 'light')

/** What is shown now. What is drawn rather than styled depends on it. */
export const papers = ref<Papers>(chosen() ?? system())

function show(next: Papers): void {
  document.documentElement.dataset['papers'] = next
  papers.value = next
}
/** The other ones; a choice that is the system's wish is none. */
export function changePapers(): void {
  const next = papers.value === 'dark' ? 'light' : 'dark'
  if (next === system()) localStorage.removeItem(KEY)
  else localStorage.setItem(KEY, next)
  show(next)
}
wish.addEventListener('change', () => show(chosen() ?? system()))
show(papers.value)
