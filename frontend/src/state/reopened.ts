// Settings that come from the log or a recipe: the sheet of their verb takes them up once.
import { watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { useBench } from './bench'

export function useReopened<V extends AnyRequest['verb']>(
  verb: V,
  takeUp: (again: Extract<AnyRequest, { verb: V }>) => void,
): void {
  const bench = useBench()
  watch(
    () => bench.reopened,
    () => {
      const again = bench.takeReopened(verb)
      if (again) takeUp(again)
    },
    { immediate: true },
  )
}
