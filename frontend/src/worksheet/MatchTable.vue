<script setup lang="ts">
// The match table: each source parameter and where it lands on each target track; every cell can be decided.
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { valueText } from '../lib/said'
import { useSession } from '../state/session'
import TypedField from '../parts/fields/TypedField.vue'
import Chooser from '../parts/Chooser.vue'

type Cell = Schemas['MatchCell']
type Match = Schemas['MatchIO']
const props = defineProps<{ cells: Cell[]; matches: Match[] }>()
const emit = defineEmits<{ decide: [parameter: string, track: string, match: Match | null] }>()
const session = useSession()
/** The choice of whatever the usual match finds. */
const USUAL = 'usual'

const sources = computed(() => [...new Map(props.cells.map((c) => [c.parameter, c.name]))])
const tracks = computed(() => [...new Set(props.cells.map((c) => c.track))])
const cellOf = computed(() => new Map(props.cells.map((c) => [`${c.parameter} ${c.track}`, c])))
const cell = (parameter: string, track: string) => cellOf.value.get(`${parameter} ${track}`)!

function given(c: Cell): Match | undefined {
  return props.matches.find((m) => m.parameter === c.parameter && m.track === c.track)
}
function nameOf(id: string | null): string {
  return session.parameters.get(id ?? '')?.parameter.name ?? 'a new parameter'
}
function usual(c: Cell): string {
  if (c.found === 'itself') return 'itself'
  if (c.found === 'same') return `same: ${nameOf(c.onto)}`
  if (c.found === 'other slot') return `other slot: ${nameOf(c.onto)}`
  if (c.found === 'chosen') return 'the usual match'
  return c.do === 'add' ? 'nothing there: added' : 'nothing there: left out'
}
function chosen(c: Cell): string {
  const m = given(c)
  if (!m) return ''
  return m.do === 'land' ? `onto ${m.onto}` : m.do
}
function choices(c: Cell): { value: string; label: string }[] {
  const onto = (session.tracks.get(c.track)?.parameters ?? []).map((p) => ({ value: `onto ${p.id}`, label: `onto ${p.name}` }))
  const others = [
    { value: 'leave out', label: 'leave out' },
    { value: 'add', label: 'add it there' },
  ]
  return [{ value: USUAL, label: usual(c) }, ...others, ...onto]
}
function decide(c: Cell, value: string): void {
  const base = { parameter: c.parameter, track: c.track, onto: null, low: null, high: null }
  if (value === USUAL) emit('decide', c.parameter, c.track, null)
  else if (value === 'add' || value === 'leave out') emit('decide', c.parameter, c.track, { ...base, do: value })
  else emit('decide', c.parameter, c.track, { ...base, do: 'land', onto: value.slice(5) })
}
function span(c: Cell): { low: number; high: number; parameter: NonNullable<ReturnType<typeof target>> } | null {
  const parameter = target(c)
  if (!c.mapped || !parameter) return null
  const m = given(c)
  return { low: m?.low ?? parameter.low, high: m?.high ?? parameter.high, parameter }
}
function target(c: Cell) {
  return session.parameters.get(c.onto ?? '')?.parameter
}
function land(c: Cell, end: 'low' | 'high', value: number): void {
  const s = span(c)
  const m = given(c)
  if (s && m) emit('decide', c.parameter, c.track, { ...m, low: s.low, high: s.high, [end]: value })
}
</script>

<template>
  <table>
    <thead>
      <tr>
        <th>Source</th>
        <th v-for="t in tracks" :key="t">{{ session.tracks.get(t)?.name }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="[parameter, name] in sources" :key="parameter">
        <th scope="row">{{ name }}</th>
        <td v-for="t in tracks" :key="t" :class="{ out: cell(parameter, t).do === 'leave out' }">
          <Chooser
            :model-value="chosen(cell(parameter, t)) || USUAL"
            :label="`Where ${name} lands on ${session.tracks.get(t)?.name}`"
            :options="choices(cell(parameter, t))"
            @update:model-value="(value) => decide(cell(parameter, t), value)"
          />
          <span v-if="span(cell(parameter, t))" class="pair">
            <TypedField
              label="Lowest lands on"
              kind="value"
              :parameter="span(cell(parameter, t))!.parameter.id"
              :text="valueText(span(cell(parameter, t))!.parameter, span(cell(parameter, t))!.low)"
              @read="(v) => land(cell(parameter, t), 'low', v)"
            />
            to
            <TypedField
              label="Highest lands on"
              kind="value"
              :parameter="span(cell(parameter, t))!.parameter.id"
              :text="valueText(span(cell(parameter, t))!.parameter, span(cell(parameter, t))!.high)"
              @read="(v) => land(cell(parameter, t), 'high', v)"
            />
          </span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 600;
  padding: 3px 14px 3px 0;
  white-space: nowrap;
}
thead th {
  color: var(--soft);
  border-bottom: 1px solid var(--line);
}
tbody th {
  font-weight: 500;
}
td {
  padding: 2px 14px 2px 0;
  border-bottom: 1px solid var(--quiet-line);
}
tbody th {
  border-bottom: 1px solid var(--quiet-line);
}
.chooser {
  width: 210px;
}
td.out .chooser {
  color: var(--soft);
}
.pair {
  display: inline-flex;
  gap: 6px;
  margin-left: 8px;
  align-items: center;
}
</style>
