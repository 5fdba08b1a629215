// Keys: a component says what each of its actions does; which key that is stands in the one table of keys.
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { ACTIONS, type Action } from '../lib/table'

export type Actions = Partial<Record<Action, () => unknown>>

/** Choices that are inputs to the page, but take no text: letters are none of theirs. */
const CHOICES = 'input[type=radio], input[type=checkbox]'
/** Keys with which a choice is made. */
const CHOOSING = [' ', 'Enter', 'ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Tab']

/** Whether a key press belongs to a field that is typed into, or to the choice it would make. */
export function inField(event: Event): boolean {
  const target = event.target as HTMLElement
  if (target.matches(CHOICES)) return event instanceof KeyboardEvent && CHOOSING.includes(event.key)
  return !!target.closest('input, textarea, [role=combobox], [role=listbox]')
}

/** Whether keys of one letter or sign do anything: who dictates, or touches keys by accident, can switch them off. */
export const letters = ref(globalThis.localStorage?.getItem('velmot.letters') !== 'off')
watch(letters, (on) => globalThis.localStorage?.setItem('velmot.letters', on ? 'on' : 'off'))

const KNOWN = new Set(Object.values(ACTIONS).flat() as string[])
/** The key as the table names it: by its letter; of a layout whose letters are none of ours by where it lies. */
function keyOf(event: KeyboardEvent): string {
  const { key, code = '', shiftKey } = event
  if (shiftKey && KNOWN.has(`Shift ${key}`)) return `Shift ${key}`
  const place = key.length === 1 && !KNOWN.has(key) ? /^Key([A-Z])$/.exec(code)?.[1] : undefined
  return place ? (shiftKey ? place : place.toLowerCase()) : key
}

/** What a key press asks for, if it is one of these actions; keys with Ctrl or Alt are the browser's and those of every program. */
export function actionOf(event: KeyboardEvent, actions: Actions): (() => unknown) | undefined {
  if (event.ctrlKey || event.metaKey || event.altKey) return undefined
  const key = keyOf(event)
  if (!letters.value && key.length === 1 && key !== ' ') return undefined
  const names = Object.keys(actions) as Action[]
  const name = names.find((action) => (ACTIONS[action] as readonly string[]).includes(key))
  return name && actions[name]
}

/** Do what a key asks for; true if it was one of these actions. */
export function pressed(event: KeyboardEvent, actions: Actions): boolean {
  const action = actionOf(event, actions)
  if (!action) return false
  event.preventDefault()
  void action()
  return true
}

/** Whether a key press presses what has the focus: Space on a button is the button's. */
function isPress(event: KeyboardEvent): boolean {
  return event.key === ' ' && !!(event.target as HTMLElement).closest('button, a, summary, [role=button], label')
}

/** Listen to keys wherever the focus is, fields aside, for as long as the component is there. */
export function useKeys(actions: Actions): void {
  const listen = (event: KeyboardEvent) => {
    const away = /^F\d+$/.test(event.key) // which no field takes
    if ((away || !inField(event)) && !isPress(event)) pressed(event, actions)
  }
  onMounted(() => window.addEventListener('keydown', listen))
  onBeforeUnmount(() => window.removeEventListener('keydown', listen))
}

/** Keys that were pressed before what listens to them was there; nothing once it is. */
let early: KeyboardEvent[] | null = []
const LONG_AGO = 5000 // ms
/** Keep what is pressed while the rest of a page that waits for it is on its way. */
export function useEarlyKeys(waits: () => boolean): void {
  const keep = (event: KeyboardEvent) => {
    if (!early || !waits() || event.defaultPrevented || inField(event) || isPress(event) || !KNOWN.has(keyOf(event))) return
    early.push(event)
  }
  onMounted(() => window.addEventListener('keydown', keep))
  onBeforeUnmount(() => window.removeEventListener('keydown', keep))
}
/** All that listens is there: it is told of what was pressed meanwhile. */
export function allListen(): void {
  const kept = early ?? []
  early = null
  const recent = kept.filter((one) => one.timeStamp > performance.now() - LONG_AGO)
  for (const { key, code, shiftKey } of recent)
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key, code, shiftKey, bubbles: true }))
}
