// Notices at the top of the screen: a queue with one way in. A refusal goes once a later step succeeds, a note stays until read.
import { defineStore } from 'pinia'
import { ref } from 'vue'

export interface Notice {
  id: number
  text: string
  refusal: boolean
  /** What can be done about it with a click. */
  offer?: { words: string; go: () => unknown }
}

export const useNotices = defineStore('notices', () => {
  const queue = ref<Notice[]>([])
  let next = 1

  function put(text: string, refusal: boolean, offer?: Notice['offer']): void {
    if (queue.value.some((notice) => notice.text === text)) return
    queue.value = [...queue.value, { id: next++, text, refusal, ...(offer ? { offer } : {}) }]
  }
  /** Something to know, until it is read. */
  const note = (text: string, offer?: Notice['offer']) => put(text, false, offer)
  /** Why something was not done. */
  function refuse(text: string): void {
    settle()
    put(text, true)
  }
  /** What was refused before says nothing any more. */
  function settle(): void {
    if (queue.value.some((notice) => notice.refusal)) queue.value = queue.value.filter((notice) => !notice.refusal)
  }
  function read(id: number): void {
    queue.value = queue.value.filter((notice) => notice.id !== id)
  }

  return { queue, note, refuse, settle, read }
})
