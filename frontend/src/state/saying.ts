// What is said to who listens to the screen: picked points as they change, undo, where the window stands.
import { defineStore } from 'pinia'
import { ref } from 'vue'

const SETTLES = 250 // ms: of things that follow each other quickly the last is said

export const useSaying = defineStore('saying', () => {
  const text = ref('')
  let timer = 0

  function say(what: string): void {
    window.clearTimeout(timer)
    timer = window.setTimeout(() => (text.value = what), SETTLES)
  }

  return { text, say }
})
