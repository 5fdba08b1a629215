// Picking points by a way the server knows: all, in range, same value, next, previous.
import { api, asked, type Schemas } from '../api/client'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'

export function usePick() {
  const session = useSession()
  const bench = useBench()
  return (way: Schemas['PickIn']['way']) =>
    session.guarded(async () => {
      const id = session.data!.id
      const picked = bench.pickedRows
      const lanes = bench.chosen.length ? bench.chosen : picked.map((p) => p.lane)
      const { start, end } = bench.range ?? { start: bench.cursor, end: bench.length }
      const body = { lanes, way, start, end, picked }
      const found = await asked(api.POST('/api/sessions/{id}/pick', { params: { path: { id } }, body }))
      bench.picked = Object.fromEntries(found.map((p) => [p.lane, p.points]))
      bench.verb = 'points'
    })
}
