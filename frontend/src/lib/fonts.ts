// The two typefaces. A canvas does not wait for them as text does: what is drawn there is drawn again when they come.
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/atkinson-hyperlegible-mono'
import { onScopeDispose } from 'vue'

export const SANS = "11px 'Atkinson Hyperlegible Next Variable', sans-serif"
export const BOLD = `700 ${SANS}`
export const MONO = "11px 'Atkinson Hyperlegible Mono Variable', monospace"

/** Have them there before the first text is drawn, if they can be. */
export function loadFonts(): void {
  for (const font of [SANS, MONO]) void document.fonts.load(font)
}
/** Whenever a typeface has come, for as long as the component is there. */
export function onFonts(come: () => void): void {
  document.fonts.addEventListener('loadingdone', come)
  onScopeDispose(() => document.fonts.removeEventListener('loadingdone', come))
}
