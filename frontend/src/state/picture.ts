// Strips as a picture: in which form, with the sound or without, and with what would come where something is previewed.
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { download } from '../api/transfer'
import { counted } from '../lib/words'
import { useBench } from './bench'
import { useNotices } from './notices'
import { usePreview } from './preview'
import { useSelection } from './selection'
import { useSession } from './session'

export const PICTURE_FORMS = ['svg', 'png', 'pdf'] as const
/** The most that can be read on one; the server draws no more. */
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
    return [...new Set(chosen.length > 1 ? chosen : bench.strips)]
  })
  /** How many of some strips are drawn, in words. */
  const counting = (ids: string[]) =>
    ids.length > MOST ? `the first ${MOST} of ${ids.length} strips` : counted(ids.length, 'strip')

  /** Take it out over some beats; what was refused, or nothing. */
  async function take(span: { start: number; end: number }, ids: string[]): Promise<string> {
    const id = session.data?.id
    if (id === undefined) return ''
    const request = preview.change ? preview.request : null
    const wanted = {
      parameters: ids.slice(0, MOST),
      ...span,
      form: form.value,
      sound: sound.value,
      request,
      shows: request ? 'both' : 'now',
    }
    return download(`/api/sessions/${id}/export/picture`, wanted, `${session.data!.name}.${form.value}`)
  }
  /** What is on the bench just now. */
  async function takeView(): Promise<void> {
    const start = Math.max(bench.view.start, 0)
    const failed = await take({ start, end: Math.min(bench.view.end, bench.length) }, bench.strips)
    if (failed) notices.refuse(failed)
    else notices.note(`A picture of ${counting(bench.strips)} is taken out.`)
  }
  return { form, sound, parameters, counting, take, takeView }
})
