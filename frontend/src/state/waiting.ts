// Long calls: after a second it is said how far the server has come, and it can be stopped.
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, asked } from '../api/client'

const PATIENCE = 1000 // ms before anything is said
const EVERY = 300

/** A word of its own for a call that may take long. */
export function newTicket(): string {
  return `ticket-${Math.random().toString(36).slice(2)}-${Date.now()}`
}

export const useWaiting = defineStore('waiting', () => {
  /** How far the call that takes long has come, 0 to 1; nothing while none does. */
  const part = ref<number | null>(null)
  let current: string | null = null
  let timer = 0

  /** Make a call with a ticket of its own. One that is given up after a while is stopped on the server too. */
  async function ticketed<T>(call: (ticket: string) => Promise<T>, signal?: AbortSignal): Promise<T> {
    const ticket = newTicket()
    const began = performance.now()
    const givenUp = () => {
      if (performance.now() - began > EVERY) void stopTicket(ticket)
    }
    signal?.addEventListener('abort', givenUp)
    current = ticket
    window.clearTimeout(timer)
    timer = window.setTimeout(() => void look(ticket), PATIENCE)
    try {
      return await call(ticket)
    } finally {
      signal?.removeEventListener('abort', givenUp)
      if (current === ticket) {
        window.clearTimeout(timer)
        current = part.value = null
      }
    }
  }
  async function look(ticket: string): Promise<void> {
    if (current !== ticket) return
    part.value ??= 0
    try {
      const answer = await asked(api.GET('/api/waiting/{ticket}', { params: { path: { ticket } } }))
      if (current === ticket && answer.part !== null) part.value = answer.part
    } catch {
      /* the call itself says what is wrong */
    }
    if (current === ticket) timer = window.setTimeout(() => void look(ticket), EVERY)
  }
  async function stopTicket(ticket: string): Promise<void> {
    try {
      await asked(api.POST('/api/waiting/{ticket}/stop', { params: { path: { ticket } } }))
    } catch {
      /* the call itself says what is wrong */
    }
  }
  function stop(): void {
    if (current) void stopTicket(current)
  }

  return { part, ticketed, stop }
})
