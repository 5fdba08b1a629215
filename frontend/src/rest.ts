// The part of the screen that the first strips do not need, as one file of its own: see later.ts.
import type { App } from 'vue'
import { installElements } from './elements'

export { default as BookPage } from './book/BookPage.vue'
export { default as ComparePage } from './compare/ComparePage.vue'
export { default as Finder } from './Finder.vue'
export { default as KeyList } from './KeyList.vue'
export { default as Ledger } from './ledger/Ledger.vue'
export { default as LogPage } from './log/LogPage.vue'
export { default as StartPage } from './start/StartPage.vue'
export { default as TakeOutPage } from './takeout/TakeOutPage.vue'
export { default as Worksheet } from './worksheet/Worksheet.vue'

export function install(app: App): void {
  installElements(app)
}
