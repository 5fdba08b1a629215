// Alternatives: which are unfolded under their strips, which are laid over, and what a click on one asks for.
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { api, asked, type AlternativeOut, type Curve } from '../api/client'
import { useAnswers } from './answers'
import { useBench } from './bench'
import { useTransport } from './desk/transport'
import { useListening } from './listening'
import { useNotices } from './notices'
import { useSelection } from './selection'
import { useSession } from './session'
import { setUp } from './setUps'
import { useWorksheet } from './worksheet'

export type What = 'keep' | 'use' | 'take' | 'rename' | 'remove' | 'back'
export const ROW = 24 // pixels
export const MOST_ROWS = 6 // at once, before they scroll

export const useAlternatives = defineStore('alternatives', () => {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const worksheet = useWorksheet()
  const notices = useNotices()
  const listening = useListening()
  const transport = useTransport()
  /** What the sheet does, and with which of them. */
  const what = setUp<What>('alternatives.what', 'keep')
  const chosen = setUp<string[]>('alternatives.chosen', [])
  /** The revision that something is brought back from, and what it is marked as. */
  const from = setUp<{ number: number; mark: string } | null>('alternatives.from', null)
  /** Parameters whose alternatives are unfolded. */
  const unfolded = ref<string[]>([])
  /** The alternative that is drawn over its strip, in pencil, by parameter. */
  const over = ref<Record<string, string>>({})

  const rowsOf = (parameter: string) => session.alternativesOf.get(parameter) ?? []
  watch(
    [unfolded, () => session.alternativesOf],
    () => {
      for (const parameter of new Set([...Object.keys(bench.under), ...unfolded.value])) {
        const rows = unfolded.value.includes(parameter) ? rowsOf(parameter).length : 0
        bench.unfold(parameter, Math.min(rows, MOST_ROWS) * ROW)
      }
    },
    { deep: true },
  )
  watch(
    () => session.data?.id,
    () => {
      unfolded.value = []
      over.value = {}
    },
  )

  const wanted = computed(() => [
    ...new Set([...unfolded.value.flatMap((p) => rowsOf(p).map((a) => a.id)), ...Object.values(over.value)]),
  ])
  const { answers: curves } = useAnswers<Curve | null>({
    wanted: () => wanted.value.filter((id) => session.alternatives.has(id)).slice(0, 500),
    // What a lane under it does now is heard where an alternative has none, and a phrase may have changed.
    changed: (step) =>
      [...session.alternatives.values()]
        .filter((a) => step.alternatives || step.linked || step.heard.includes(a.parameter))
        .map((a) => a.id),
    windowed: true,
    ask: async ({ session: id, ids, view, columns }, signal) => {
      const query = { some: ids.join('\n'), start: view.start, end: view.end, columns }
      const found = await asked(api.GET('/api/sessions/{id}/alternatives', { params: { path: { id }, query }, signal }))
      return found.map((one): [string, Curve | null] => [one.alternative, one.curve])
    },
  })

  function toggle(parameter: string): void {
    unfolded.value = unfolded.value.includes(parameter)
      ? unfolded.value.filter((p) => p !== parameter)
      : [...unfolded.value, parameter]
  }
  function layOver({ parameter, id }: AlternativeOut): void {
    const { [parameter]: now, ...others } = over.value
    over.value = now === id ? others : { ...others, [parameter]: id }
  }
  /** What one stands for on the sheet, which previews it. */
  function ask(does: What, ids: string[]): void {
    what.value = does
    chosen.value = ids
    worksheet.verb = 'alternatives'
  }
  /** Parts of what was at a revision, on the sheet. */
  function bringBack(number: number, mark: string): void {
    from.value = { number, mark }
    what.value = 'back'
    worksheet.verb = 'alternatives'
    worksheet.folded = false
  }
  /** Put one in use, at once: what was in use is kept aside. */
  async function use(ids: string[]): Promise<void> {
    const request = { verb: 'use alternatives' as const, alternatives: ids, aside: true, when: '' }
    await session.apply(request)
  }
  /** Hear one as it would be if it was used; the swap goes between that and what is used, while it plays. */
  function hear({ id }: AlternativeOut): void {
    ask('use', [id])
    listening.swap('applied')
    if (!transport.running) void transport.toggle()
  }
  /** Those that were kept in one step with some, of other parameters. */
  function together(ids: string[]): string[] {
    const some = ids.flatMap((id) => session.alternatives.get(id) ?? [])
    const taken = new Set(some.map((a) => a.parameter))
    const same = [...session.alternatives.values()].filter(
      (a) => a.kept && !taken.has(a.parameter) && some.some((b) => b.kept === a.kept && b.name === a.name),
    )
    const one = new Map(same.map((a) => [a.parameter, a.id]))
    return [...ids, ...one.values()]
  }
  /** The parameters of the chosen lanes. */
  const parameters = computed(() => {
    const of = selection.lanes.flatMap((id) => session.lanes.get(id)?.parameter ?? [])
    return [...new Set(of)]
  })
  /** The newest go at each parameter of the chosen lanes. */
  const newest = computed(() => parameters.value.flatMap((p) => rowsOf(p).at(-1)?.id ?? []))
  /** What a line of the ledger that has the focus is about: a lane's parameter, or all of its track that have lanes. */
  function ofLedger(): string[] {
    const row = document.activeElement?.closest<HTMLElement>('[data-row]')?.dataset['row']
    if (!row) return []
    const track = row.startsWith('group:') ? row.slice('group:'.length) : null
    const lanes = (session.data?.lanes ?? []).filter((x) => (track === null ? x.id === row : x.track === track))
    return [...new Set(lanes.map((x) => x.parameter))]
  }
  /** Keep aside what is done by the ledger's line that has the focus, the chosen lanes, or the strip where the keys are. */
  async function keepAside(): Promise<void> {
    const strip = bench.stopStrip ? [bench.stopStrip] : []
    const some = [ofLedger(), parameters.value, strip].find((ids) => ids.length) ?? []
    if (!some.length) return notices.refuse('Choose lanes first: then what they do is kept aside')
    const request = { verb: 'keep aside' as const, parameters: some, name: '', start: null, end: null, when: '' }
    const title = await session.apply(request)
    if (!title) return
    unfolded.value = [...new Set([...unfolded.value, ...some])]
  }

  return {
    ...{ newest, what, chosen, from, bringBack, unfolded, over, curves, parameters, rowsOf },
    ...{ toggle, layOver, ask, use, hear, together, keepAside },
  }
})
