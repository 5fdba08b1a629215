// The two typefaces. A canvas does not wait for them as text does: what is drawn there is drawn again when they come.
import '@fontsource-variable/atkinson-hyperlegible-next'
import '@fontsource-variable/atkinson-hyperlegible-mono'
import { onScopeDispose } from 'vue'

import { MONO, SANS } from '../lib/typefaces'

/** Have them there before the first text is drawn, if they can be. */
export function loadFonts(): void {
  for (const font of [SANS, MONO]) void document.fonts.load(font)
}
/** Whenever a typeface has come, for as long as the component is there. */
export function onFonts(come: () => void): void {
  document.fonts.addEventListener('loadingdone', come)
  onScopeDispose(() => document.fonts.removeEventListener('loadingdone', come))
}
