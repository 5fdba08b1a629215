// What this window is called, so that the log can say which one made a step. It stays while the tab is open.
const WORDS = ['amber', 'birch', 'clay', 'dune', 'elm', 'flint', 'gale', 'heath', 'ivory', 'jade', 'kelp', 'loam', 'moss', 'onyx', 'pine', 'reed', 'slate', 'tern', 'umber', 'wren'] // prettier-ignore
const KEY = 'velmot.window'

function made(): string {
  const [word, number] = crypto.getRandomValues(new Uint32Array(2))
  return `${WORDS[word! % WORDS.length]} ${(number! % 90) + 10}`
}

export const windowName: string = (() => {
  try {
    const known = sessionStorage.getItem(KEY) ?? made()
    sessionStorage.setItem(KEY, known)
    return known
  } catch {
    return made() // a browser that keeps nothing
  }
})()
