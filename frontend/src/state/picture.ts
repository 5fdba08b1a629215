// Strips as a picture: in which form, with the sound or without, and with what would come where something is previewed.
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { download } from '../api/transfer'
import { useBench } from './bench'
import { useNotices } from './notices'
import { usePreview } from './preview'
import { useSelection } from './selection'
import { useSession } from './session'

export const PICTURE_FORMS = ['svg', 'png', 'pdf'] as const
const MOST = 60

export const usePicture = defineStore('picture', () => {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const preview = usePreview()
  const notices = useNotices()
  const form = ref<(typeof PICTURE_FORMS)[number]>('svg')
  const sound = ref(false)
  /** The chosen lanes' parameters where some are chosen, else the strips of the bench. */
  const parameters = computed(() => {
    const chosen = selection.lanes.flatMap((id) => session.lanes.get(id)?.parameter ?? [])
    return [...new Set(chosen.length > 1 ? chosen : bench.strips)].slice(0, MOST)
  })

  /** Take it out over some beats; what was refused, or nothing. */
  async function take(span: { start: number; end: number }, ids: string[]): Promise<string> {
    const id = session.data?.id
    if (id === undefined) return ''
    const request = preview.change ? preview.request : null
    const wanted = { parameters: ids, ...span, form: form.value, sound: sound.value, request, shows: request ? 'both' : 'now' }
    return download(`/api/sessions/${id}/export/picture`, wanted, `${session.data!.name}.${form.value}`)
  }
  /** What is on the bench just now. */
  async function takeView(): Promise<void> {
    const start = Math.max(bench.view.start, 0)
    const failed = await take({ start, end: Math.min(bench.view.end, bench.length) }, bench.strips.slice(0, MOST))
    if (failed) notices.refuse(failed)
    else notices.note(`A picture of ${Math.min(bench.strips.length, MOST)} strips is taken out.`)
  }
  return { form, sound, parameters, take, takeView }
})
