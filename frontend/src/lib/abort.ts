// Calls that were given up because a newer question came.
/** Whether an error only says that a newer question came in between. */
export function isAbort(error: unknown): boolean {
  return error instanceof DOMException && error.name === 'AbortError'
}
