// Sets of pinned lanes, kept under names.
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, asked } from '../api/client'
import { useBench } from './bench'
import { useNotices } from './notices'
import { useSelection } from './selection'
import { useSession } from './session'

interface Rule {
  by: 'family' | 'group' | 'moving' | 'week' | 'since'
  of?: string
  start?: number
  end?: number
}
const MOST = 500

export const useSets = defineStore('sets', () => {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const notices = useNotices()
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

  /** Sets that are told by a rule: what is asked of the server, by what it is called. */
  const rules = computed<Record<string, Rule>>(() => {
    const data = session.data
    if (!data) return {}
    const families = [...new Set(data.lanes.map((lane) => session.parameters.get(lane.parameter)!.parameter.family))]
    const span = selection.range
    return {
      ...Object.fromEntries(families.map((of) => [`every ${of}`, { by: 'family', of }])),
      ...Object.fromEntries(
        data.tracks.filter((t) => t.member_ids.length).map((t) => [`all under ${t.name}`, { by: 'group', of: t.id }]),
      ),
      [span ? 'what moves in the range' : 'what moves on view']: { by: 'moving', ...(span ?? bench.view) },
      'what the last week changed': { by: 'week' },
      ...(session.openedAt < data.revision
        ? { 'what changed since it was opened': { by: 'since', of: `${session.openedAt}` } }
        : {}),
    }
  })
  /** Pin what a rule tells. */
  async function recallRule(called: string): Promise<void> {
    const rule = rules.value[called]
    if (rule) await pinBy(rule, called)
  }
  /** Pin what differs from a revision: every lane that a later step touched. */
  const pinSince = (revision: number) => pinBy({ by: 'since', of: `${revision}` }, `since step ${revision}`)
  async function pinBy(rule: Rule, called: string): Promise<void> {
    const id = session.data?.id
    if (id === undefined) return
    await session.guarded(async () => {
      const found = await asked(api.GET('/api/sessions/{id}/rule', { params: { path: { id }, query: rule } }))
      if (found.length) bench.pins = found.slice(0, MOST)
      else notices.note(`Nothing: ${called}`)
    })
  }

  return { name, keep, recall, next, rules, recallRule, pinSince }
})
