// Whether hints are shown: until somebody switches them off, in this browser.
import { ref, watch } from 'vue'

const KEPT = 'velmot.hints'
export const hints = ref(globalThis.localStorage?.getItem(KEPT) !== 'off')
watch(hints, (on) => globalThis.localStorage?.setItem(KEPT, on ? 'on' : 'off'))
