// Copy, cut and paste with the platform's own keys; the text is the session format's lanes.
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, asked, refusal } from '../api/client'
import { useWorksheet } from './worksheet'
import { useSelection } from './selection'
import { useNotices } from './notices'
import { useSession } from './session'

export const useClipboard = defineStore('clipboard', () => {
  const session = useSession()
  const worksheet = useWorksheet()
  const selection = useSelection()
  const notices = useNotices()
  const text = ref('')

  /** What the chosen lanes do over the range (or their whole length), as text. */
  async function copy(): Promise<boolean> {
    const data = session.data
    if (!data || !selection.lanes.length) {
      notices.refuse('Choose a lane or drag over a strip first: there is nothing to copy')
      return false
    }
    return session.guarded(async () => {
      const { start, end } = selection.range ?? { start: 0, end: data.length }
      const query = { lanes: selection.lanes.join('\n'), start, end }
      const answer = await asked(api.GET('/api/sessions/{id}/clipboard', { params: { path: { id: data.id }, query } }))
      text.value = answer.text
      // Some browsers let only a focused page write; the text stays here for pasting all the same.
      await navigator.clipboard?.writeText(answer.text).catch(() => undefined)
    })
  }

  async function cut(): Promise<void> {
    const { range, lanes } = selection
    if (!range) {
      notices.refuse('Cut takes a range: drag over a strip first')
      return
    }
    if (!(await copy())) return
    await session.apply({
      verb: 'clear',
      scope: 'range',
      lanes,
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
      const view = { revision: data.revision, request, instead: false }
      await asked(api.POST('/api/sessions/{id}/preview', { params: { path: { id: data.id } }, body: view }))
      const title = await session.apply(request)
      if (title) worksheet.verb = 'points'
    } catch (error) {
      refusal(error)
      worksheet.verb = 'paste'
    }
  }

  return { text, copy, cut, paste }
})
