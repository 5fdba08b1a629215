// Where the controls stand: by their lanes, as the server sampled them, or under a hand.
import { computed, type ComputedRef } from 'vue'
import { api, asked, type ParameterOut } from '../../api/client'
import { fromAxis, toAxis } from '../../lib/geometry'
import { useAsking } from '../asking'
import { useBench } from '../bench'
import { useSession } from '../session'
import type { Controls } from './controls'
import type { Doing } from './live'
import type { Ride } from './pass'
import { useTransport } from './transport'

const SAMPLES = 4000

export type Standing = ReturnType<typeof useStanding>

/** `request` is what was ridden so far: the controls stand where that leaves them. */
export function useStanding(
  { known, parameterOf, modeOf, trims, shows }: Controls,
  { grips, live }: Doing,
  request: ComputedRef<Ride | null>,
) {
  const session = useSession()
  const bench = useBench()
  const transport = useTransport()

  const span = computed(() => transport.round ?? { start: 0, end: bench.length })
  const question = computed(() => {
    const now = session.data
    if (!now || !known.value.length) return null
    const body = { parameters: known.value, ...span.value, columns: SAMPLES, request: request.value }
    return { id: now.id, revision: now.revision, body }
  })
  const { answer: shown } = useAsking(
    () => question.value,
    ({ id, body }, signal) => asked(api.POST('/api/sessions/{id}/desk', { params: { path: { id } }, body, signal })),
    { keep: true },
  )
  /** That the disk is getting full, before anything is ridden on it. */
  const room = computed(() => shown.value?.room ?? '')
  const controls = computed(() => new Map((shown.value?.controls ?? []).map((c) => [c.parameter, c])))
  const at = computed(() => transport.beat ?? bench.cursor)

  /** The value between two that were asked for, as straight as its lane; named values hold. */
  function sampled(values: number[], p: ParameterOut, beat: number): number {
    const { start, step } = shown.value!
    const place = Math.min(Math.max((beat - start) / step, 0), values.length - 1)
    const [i, part] = [Math.floor(place), place - Math.floor(place)]
    const [one, other] = [values[i]!, values[Math.min(i + 1, values.length - 1)]!]
    if (p.kind !== 'continuous') return one
    return fromAxis(p, toAxis(p, one) + (toAxis(p, other) - toAxis(p, one)) * part)
  }
  /** What the lanes say at a beat, what groups add where that is shown. */
  function standing(id: string, beat: number): number {
    const control = controls.value.get(id)
    const p = parameterOf(id)
    if (!control) return p.value
    const own = sampled(control.own, p, beat)
    return shows.value === 'heard' && control.adds.length ? own + sampled(control.adds, p, beat) : own
  }
  /** Where a control stands: under the hand, where that left it, or where its lane is; a trim from 0 on. */
  function valueOf(id: string, beat = at.value): number {
    const grip = grips.value.get(id)
    const left = live.value?.hands.has(id) && modeOf(id) !== 'touch'
    if (grip && (grip.hands || left)) return grip.value
    return trims(id) ? 0 : standing(id, transport.running ? beat : at.value)
  }
  /** A control's place on its lane: of a trim what is there, and the change. */
  function seenAt(id: string, value: number, beat: number): number {
    const p = parameterOf(id)
    return trims(id) ? fromAxis(p, toAxis(p, standing(id, beat)) + value) : value
  }
  const drives = (id: string) => controls.value.get(id)?.drives.find((d) => at.value < d.end)?.words ?? ''

  return { span, room, controls, at, sampled, standing, valueOf, seenAt, drives }
}
