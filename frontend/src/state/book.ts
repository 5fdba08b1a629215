// The phrase book as the server keeps it, for every session.
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { api, asked, type Schemas } from '../api/client'

export type BookLine = Schemas['BookLine']
export type Given = Schemas['GivenPhrase']

export const useBook = defineStore('book', () => {
  const lines = shallowRef<BookLine[]>([])
  const whole = new Map<number, Given>()

  async function fetch(): Promise<void> {
    lines.value = await asked(api.GET('/api/book', {}))
    whole.clear()
  }
  /** A phrase of the book, as a request brings it along. */
  async function open(phrase: number): Promise<Given> {
    const known = whole.get(phrase)
    if (known) return known
    const entry = await asked(api.GET('/api/book/{phrase}', { params: { path: { phrase } } }))
    const given = entry.phrase
    whole.set(phrase, given)
    return given
  }
  return { lines, fetch, open }
})
