// Picking points by a way the server knows: all, in range, same value, next, previous.
import { api, asked, type Schemas } from '../api/client'
import { useBench } from './bench'
import { useWorksheet } from './worksheet'
import { useSelection } from './selection'
import { useSession } from './session'

export function usePick() {
  const session = useSession()
  const worksheet = useWorksheet()
  const selection = useSelection()
  const bench = useBench()
  async function pick(way: Schemas['PickIn']['way']): Promise<void> {
    const id = session.data!.id
    const picked = selection.pointRows
    const lanes = selection.lanes.length ? selection.lanes : picked.map((p) => p.lane)
    const { start, end } = selection.range ?? { start: bench.cursor, end: bench.length }
    const body = { lanes, way, start, end, picked }
    const found = await asked(api.POST('/api/sessions/{id}/pick', { params: { path: { id } }, body }))
    selection.points = Object.fromEntries(found.map((p) => [p.lane, p.points]))
    worksheet.verb = 'points'
  }
  return (way: Schemas['PickIn']['way']) => (last = last.then(() => session.guarded(() => pick(way))))
}

/** The pick before: the next one goes on from what it has found. */
let last: Promise<unknown> = Promise.resolve()
