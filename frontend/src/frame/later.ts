// Loads the rest of the screen: at once for its pages, and beside the strips as soon as the first of them are drawn.
import { type App, type Component, defineAsyncComponent } from 'vue'

type Rest = typeof import('./rest')
type Part = Exclude<keyof Rest, 'install'>
/** How long the rest waits for strips, in ms, where none come. */
const PATIENCE = 1500

let app: App | null = null
let asked: Promise<Rest> | null = null
let free: () => void
const strips = new Promise<void>((resolve) => (free = resolve))

export function settle(mounted: App): void {
  app = mounted
}
async function load(): Promise<Rest> {
  const rest = await import('./rest')
  if (app) rest.install(app)
  return rest
}
const rest = () => (asked ??= load())

/** The first strips stand, or there are none to wait for. */
export function stripsStand(): void {
  free()
}
/** A part of the screen that is loaded as soon as it is asked for. */
export const now = (part: Part) => async (): Promise<Component> => (await rest())[part]
/** A part that waits until the first strips stand. */
export function later(part: Part): Component {
  return defineAsyncComponent(async () => {
    await Promise.race([strips, asked ?? strips, new Promise((done) => setTimeout(done, PATIENCE))])
    return (await rest())[part]
  })
}
