// Typed fields whose text the server is still reading: what is applied by key waits for them.
import { nextTick, onScopeDispose, shallowReactive, watch, type Ref } from 'vue'

const readings = new Set<Promise<boolean>>()

/** Fields whose text cannot be read, each with why: as long as there is one, nothing is applied. */
export const unread = shallowReactive(new Map<symbol, { label: string; why: string }>())

/** Tell of a field whose text cannot be read, for as long as `why` says something and the field is there. */
export function useUnread(label: () => string, why: () => string): void {
  const field = Symbol(label())
  watch(why, (said) => (said ? unread.set(field, { label: label(), why: said }) : unread.delete(field)), { flush: 'sync' })
  onScopeDispose(() => unread.delete(field))
}

/** Until everything that is being read now has been: what is typed next may count from it. */
export async function earlierRead(): Promise<void> {
  if (readings.size) await Promise.all(readings).then(() => nextTick())
}

/** Remember a reading until it has ended; it says whether the text could be read. */
export function begun(reading: Promise<boolean>): void {
  readings.add(reading)
  void reading.finally(() => readings.delete(reading))
}

/** Whenever something is asked that a request is made from, what is applied waits until `current` says that it is answered. */
export function readUntil(current: Ref<boolean>): void {
  let heard: (() => void) | null = null
  watch(
    current,
    (now) => {
      if (now) heard?.()
      else begun(new Promise((done) => (heard = () => done(true))))
    },
    { flush: 'sync' },
  )
  onScopeDispose(() => heard?.())
}

/** Read the field that is being typed in, wait for all readings, and say whether every text could be read. */
export async function allRead(): Promise<boolean> {
  const field = document.activeElement
  if (field?.matches('input.words-field')) field.dispatchEvent(new Event('change'))
  return (await Promise.all(readings)).every((fine) => fine) && !unread.size
}

/** Do something once all that is typed has been read, and is in the request; not where something cannot be. */
export async function whenRead(then: () => unknown): Promise<void> {
  if (!(await allRead())) return
  await nextTick()
  await then()
}

/** Whether a field is being typed in or read. */
export function mayBeReading(): boolean {
  return readings.size > 0 || !!document.activeElement?.matches('input.words-field')
}
