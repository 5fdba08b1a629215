// Settings that come from the log or a recipe: the sheet of their verb takes them up once.
import { watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { useWorksheet } from './worksheet'

export function useReopened<V extends AnyRequest['verb']>(
  verb: V,
  takeUp: (again: Extract<AnyRequest, { verb: V }>) => void,
): void {
  const worksheet = useWorksheet()
  watch(
    () => worksheet.reopened,
    () => {
      const again = worksheet.takeReopened(verb)
      if (again) takeUp(again)
    },
    { immediate: true },
  )
}
