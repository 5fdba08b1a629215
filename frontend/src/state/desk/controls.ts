// Which controls are on the desk, how each writes, and which are ridden by keys.
import { computed, ref } from 'vue'
import type { ParameterOut } from '../../api/client'
import { useBench } from '../bench'
import { useSelection } from '../selection'
import { useSession } from '../session'
import type { Mode } from './pass'

interface Setting {
  mode: Mode
  trim: boolean
}

export type Controls = ReturnType<typeof useControls>

export function useControls() {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()

  /** The controls on the desk, by parameter. */
  const columns = ref<string[]>([])
  const settings = ref<Record<string, Setting>>({})
  const shows = ref<'own' | 'heard'>('own')
  /** Controls that keys ride, all of them at once. */
  const inHand = ref<string[]>([])

  const known = computed(() => columns.value.filter((id) => session.parameters.has(id)))
  const parameterOf = (id: string): ParameterOut => session.parameters.get(id)!.parameter
  /** How a control writes: as its track does, or by touch where that only reads. */
  function settingOf(id: string): Setting {
    const mode = session.parameters.get(id)?.track.mode
    return settings.value[id] ?? { mode: mode === 'read' ? 'touch' : "the track's", trim: false }
  }
  function modeOf(id: string): string {
    const { mode } = settingOf(id)
    return mode === "the track's" ? (session.parameters.get(id)?.track.mode ?? 'read') : mode
  }
  const trims = (id: string) => settingOf(id).trim && parameterOf(id).kind === 'continuous'
  function set(id: string, some: Partial<Setting>): void {
    settings.value = { ...settings.value, [id]: { ...settingOf(id), ...some } }
  }
  function put(ids: string[]): void {
    columns.value = [...new Set([...columns.value, ...ids])]
  }
  function take(id: string): void {
    columns.value = columns.value.filter((x) => x !== id)
    inHand.value = inHand.value.filter((x) => x !== id)
  }
  /** A desk that is empty begins with what is chosen, else with what is pinned. */
  function fill(): void {
    if (known.value.length) return
    const chosen = selection.lanes.map((id) => session.lanes.get(id)?.parameter ?? '')
    put((chosen.length ? chosen : bench.pins).filter((id) => session.parameters.has(id)).slice(0, 8))
  }
  function toggleInHand(id: string): void {
    inHand.value = inHand.value.includes(id) ? inHand.value.filter((x) => x !== id) : [...inHand.value, id]
  }

  return { columns, known, settings, shows, inHand, parameterOf, settingOf, modeOf, trims, set, put, take, fill, toggleInHand }
}
