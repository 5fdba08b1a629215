// A hand at work on the session: at every move what it asks for is previewed; let go it is applied once, given up it never was.
// It holds what it took as it stood at its press: if that goes, the drag ends and says so.
import { watch } from 'vue'
import { sentence, type AnyRequest } from '../api/client'
import { follow } from '../lib/dragging'
import { useNotices } from './notices'
import { usePreview } from './preview'
import { useSession } from './session'

export interface Hold {
  /** What is asked for with the pointer here; nothing leaves what was asked for before. */
  move: (event: PointerEvent) => AnyRequest | null | undefined
  /** The session has changed under the hand: what of that which it holds is gone, in words; nothing if all is there. */
  gone?: () => string | null
  /** Let go without a drag. */
  click?: () => void
  /** Applied, or refused (no title). */
  done?: (title: string | null, asked: AnyRequest) => void
  /** At every end, before anything is applied. */
  end?: () => void
  /** Pixels before a press becomes a drag. */
  from?: number
}

/** Whether a refusal says that what a hand held is gone. */
const GONE = 'held-gone'

export function useHolding() {
  const preview = usePreview()
  const session = useSession()
  const notices = useNotices()

  return function hold(event: PointerEvent, how: Hold, element = event.currentTarget as Element): void {
    if (event.button !== 0) return
    const mine = preview.hold()
    const about = session.data?.id
    let last: PointerEvent | null = null
    const ask = () => {
      if (!last) return
      const wanted = how.move(last)
      if (wanted !== undefined) mine.ask(wanted)
    }
    const unheld = [
      watch(
        () => session.data,
        (now) => {
          const lost = now?.id === about ? how.gone?.() : ''
          if (lost == null) return ask()
          if (lost) notices.note(`${lost}: the drag ended there, and nothing was changed by it.`)
          stop()
        },
        { flush: 'post' },
      ),
      watch(
        () => preview.problem,
        (problem) => {
          if (problem?.code !== GONE || !mine.current()) return
          notices.refuse(sentence(problem))
          stop()
        },
      ),
    ]
    const end = () => {
      for (const unwatch of unheld) unwatch()
      how.end?.()
    }
    const stop = follow(
      event,
      {
        from: how.from ?? 0,
        move: (next) => {
          last = next
          ask()
        },
        drop: (dragged) => {
          end()
          if (!dragged) {
            mine.letGo()
            return how.click?.()
          }
          void mine.apply().then((applied) => applied && how.done?.(applied.title, applied.asked))
        },
        giveUp: () => {
          end()
          mine.letGo()
        },
      },
      element,
    )
  }
}
