// What is set up on sheets: it stays while the session is open, whatever is on view meanwhile.
import { defineStore } from 'pinia'
import { ref, watch, type Ref } from 'vue'
import { useSession } from './session'

export const useSetUps = defineStore('set-ups', () => {
  const session = useSession()
  const all = new Map<string, Ref<unknown>>()
  let of = session.data?.id
  watch(
    () => session.data?.id,
    (id) => {
      if (id === undefined || id === of) return
      of = id
      all.clear()
    },
    { flush: 'sync' },
  )

  function named<T>(name: string, usual: T): Ref<T> {
    const known = all.get(name) as Ref<T> | undefined
    if (known) return known
    const made = ref(usual) as Ref<T>
    all.set(name, made)
    return made
  }
  return { named }
})

/** A setting of a sheet, by a name of its own; `usual` until it is changed. */
export function setUp<T>(name: string, usual: T): Ref<T> {
  return useSetUps().named(name, usual)
}
