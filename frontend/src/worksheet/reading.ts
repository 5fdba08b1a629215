// Typed fields whose text the server is still reading: what is applied by key waits for them.
const readings = new Set<Promise<boolean>>()

/** Remember a reading until it has ended; it says whether the text could be read. */
export function begun(reading: Promise<boolean>): void {
  readings.add(reading)
  void reading.finally(() => readings.delete(reading))
}

/** Read the field that is being typed in, wait for all readings, and say whether every text could be read. */
export async function allRead(): Promise<boolean> {
  const field = document.activeElement
  if (field?.matches('input.words-field')) field.dispatchEvent(new Event('change'))
  return (await Promise.all(readings)).every((fine) => fine)
}

/** Whether a field is being typed in or read. */
export function mayBeReading(): boolean {
  return readings.size > 0 || !!document.activeElement?.matches('input.words-field')
}
