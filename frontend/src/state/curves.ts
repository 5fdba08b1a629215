// The curves of the strips that are near, what is heard on those that show it, findings, and values at the cursor.
import { computed, type Ref } from 'vue'
import { api, asked, type Curve, type Finding, type Schemas } from '../api/client'
import { useAnswers } from './answers'
import { useAsking } from './asking'
import { useBench } from './bench'
import { useSession } from './session'
import { inPieces } from '../lib/fetching'

export type HeardLine = Schemas['HeardOut']

/** The curves of every lane that is drawn on a strip that is near. */
export function useCurves(near: Ref<string[]>) {
  const session = useSession()
  const bench = useBench()
  const wanted = computed(() => {
    const drawn = near.value.flatMap((p) => [p, ...(bench.shares[p] ?? [])])
    return [...new Set(drawn.flatMap((p) => (session.lanesOf.get(p) ?? []).map((lane) => lane.id)))]
  })
  const { answers, version } = useAnswers<Curve>({
    wanted: () => wanted.value,
    changed: (step) => step.redrawn,
    first: ({ curves }) => curves.map((curve) => [curve.lane, curve]),
    windowed: true,
    ask: async ({ session: id, ids, view, columns }, signal) => {
      const pieces = inPieces(ids).map((some) => {
        const query = { lanes: some.join('\n'), start: view.start, end: view.end, columns }
        return asked(api.GET('/api/sessions/{id}/curves', { params: { path: { id }, query }, signal }))
      })
      return (await Promise.all(pieces)).flat().map((curve): [string, Curve] => [curve.lane, curve])
    },
  })
  return { curves: answers, version }
}

/** What is heard on the strips that show it. */
export function useHeardLines(near: Ref<string[]>) {
  const bench = useBench()
  const wanted = computed(() => near.value.filter((p) => bench.heardOn.includes(p)))
  const { answers } = useAnswers<HeardLine>({
    wanted: () => wanted.value,
    changed: (step) => step.heard,
    windowed: true,
    ask: async ({ session: id, ids, view, columns }, signal) => {
      const query = { parameters: ids.join('\n'), start: view.start, end: view.end, columns }
      const found = await asked(api.GET('/api/sessions/{id}/heard', { params: { path: { id }, query }, signal }))
      return found.map((line): [string, HeardLine] => [line.parameter, line])
    },
  })
  return answers
}

/** What is found on strips: everything that has a span of its own to be drawn at. */
export function useFindings(parameters: Ref<string[]>) {
  const { answers } = useAnswers<Finding[]>({
    wanted: () => parameters.value,
    changed: (step) => step.heard,
    first: (first) => byParameter(first.parameters, first.findings),
    windowed: false,
    ask: async ({ session: id, ids }, signal) => {
      const query = { parameters: ids.join('\n') }
      const found = await asked(api.GET('/api/sessions/{id}/findings', { params: { path: { id }, query }, signal }))
      return byParameter(ids, found)
    },
  })
  return answers
}

/** What is found on strips, but not on one lane of them alone. */
function byParameter(parameters: string[], found: Finding[]): [string, Finding[]][] {
  return parameters.map((p) => [p, found.filter((f) => f.parameter === p && f.lane === null)])
}

/** What is heard of parameters at a beat, and what their lanes say there. */
export function useValues(parameters: () => string[], at: () => number) {
  const session = useSession()
  const question = computed(() => {
    const ids = parameters()
    const now = session.data
    if (!now || !ids.length) return null
    const beat = Math.min(Math.max(at(), 0), now.length)
    return { id: now.id, query: { parameters: ids.join('\n'), beat } }
  })
  const { answer } = useAsking(
    () => question.value,
    ({ id, query }, signal) => asked(api.GET('/api/sessions/{id}/values', { params: { path: { id }, query }, signal })),
    { keep: true, patient: () => true },
  )
  return computed(() => new Map((answer.value ?? []).map((row) => [row.parameter, row])))
}
