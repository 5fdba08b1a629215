// Copy, cut and paste with the platform's own keys; the text is the session format's lanes.
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, asked, ServerProblem } from '../api/client'
import { useBench } from './bench'
import { useSession } from './session'

export const useClipboard = defineStore('clipboard', () => {
  const session = useSession()
  const bench = useBench()
  const text = ref('')

  /** What the chosen lanes do over the range (or their whole length), as text. */
  async function copy(): Promise<boolean> {
    const data = session.data
    if (!data || !bench.chosen.length) {
      session.trouble = 'Choose a lane or drag over a strip first: there is nothing to copy'
      return false
    }
    return await session.guarded(async () => {
      const { start, end } = bench.range ?? { start: 0, end: data.length }
      const query = { lanes: bench.chosen.join('\n'), start, end }
      const answer = await asked(api.GET('/api/sessions/{id}/clipboard', { params: { path: { id: data.id }, query } }))
      text.value = answer.text
      // Some browsers let only a focused page write; the text stays here for pasting all the same.
      await navigator.clipboard?.writeText(answer.text).catch(() => undefined)
    })
  }

  async function cut(): Promise<void> {
    const { range, chosen } = bench
    if (!range) {
      session.trouble = 'Cut takes a range: drag over a strip first'
      return
    }
    if (!(await copy())) return
    await session.apply({
      verb: 'clear',
      scope: 'range',
      lanes: chosen,
      tracks: [],
      ...range,
      way: 'seal',
      static: 'keep',
      cursor: 0,
    })
  }

  /** Paste to the same place at once; what does not fit is shown on the paste sheet, with what can be done. */
  async function paste(pasted: string, at: number | null): Promise<void> {
    const data = session.data
    if (!data) return
    text.value = pasted || text.value
    try {
      const body = { text: text.value, at, onto: null, how: 'unit' as const }
      const call = { params: { path: { id: data.id } }, body }
      const { request } = await asked(api.POST('/api/sessions/{id}/clipboard', call))
      const view = { revision: data.revision, request }
      await asked(api.POST('/api/sessions/{id}/preview', { params: { path: { id: data.id } }, body: view }))
      const title = await session.apply(request)
      if (title) bench.verb = 'points'
    } catch (error) {
      if (!(error instanceof ServerProblem)) throw error
      bench.verb = 'paste'
    }
  }

  return { text, copy, cut, paste }
})
