// Sets of pinned lanes, kept under names.
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { useBench } from './bench'
import { useSession } from './session'

export const useSets = defineStore('sets', () => {
  const session = useSession()
  const bench = useBench()
  let recalled = ''
  const name = ref('')

  /** Keep what is pinned under the name that was typed. */
  function keep(): void {
    const said = name.value.trim()
    if (!said || !bench.pins.length) return
    bench.sets = [...bench.sets.filter((x) => x.name !== said), { name: said, pins: [...bench.pins] }]
    name.value = ''
  }
  function recall(wanted: string): void {
    const kept = bench.sets.find((x) => x.name === wanted)
    if (!kept) return
    bench.pins = kept.pins.filter((p) => session.parameters.has(p))
    recalled = wanted
  }
  function next(): void {
    const at = bench.sets.findIndex((x) => x.name === recalled)
    const after = bench.sets[(at + 1) % Math.max(bench.sets.length, 1)]
    if (after) recall(after.name)
  }

  return { name, keep, recall, next }
})
