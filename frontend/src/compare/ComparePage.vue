<script setup lang="ts">
// Compare: two lanes, two tracks or two revisions; what differs, by how much and where, and the difference drawn.
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, asked, sentence, type LogLine, type Schemas } from '../api/client'
import { useAsking } from '../state/asking'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { counted } from '../lib/words'
import Spark from '../parts/Spark.vue'
import PairChart from './PairChart.vue'
import Chooser from '../parts/Chooser.vue'
import ChoiceButtons from '../parts/fields/ChoiceButtons.vue'

type What = 'lanes' | 'tracks' | 'revisions'
const session = useSession()
const selection = useSelection()
const bench = useBench()
const router = useRouter()
const route = useRoute()
/** The revision that the log sent here to compare. */
const since = Number(route.query['revision'] ?? NaN)
const lanesChosen = selection.lanes.length === 1 || selection.lanes.length === 2
const what = ref<What>(Number.isNaN(since) ? (lanesChosen ? 'lanes' : 'tracks') : 'revisions')
const one = ref('')
const other = ref('')
/** The key of the row that is drawn; the first one, if there is none such. */
const row = ref('')
const apart = ref(false)

const revisionsOf = computed(() =>
  session.data && what.value === 'revisions' ? { id: session.data.id, revision: session.data.revision } : null,
)
const { answer: log } = useAsking(
  () => revisionsOf.value,
  async ({ id }, signal) => {
    const found: LogLine[] = []
    for (let more = true; more;) {
      const query = { most: 1000, ...(found.length ? { before: found.at(-1)!.number } : {}) }
      const page = await asked(api.GET('/api/sessions/{id}/log', { params: { path: { id }, query }, signal }))
      found.push(...page.lines)
      more = page.more
    }
    return found
  },
)

const NOW = 'now'
const ASIDE = 'alternative/' // before an alternative's id
const options = computed(() => {
  const data = session.data!
  if (what.value === 'lanes')
    return [
      ...data.lanes.map((x) => ({ value: x.id, label: session.laneName(x.id) })),
      ...data.alternatives.map((a) => ({
        value: `${ASIDE}${a.id}`,
        label: `“${a.name}”, ${session.parameterName(a.parameter)}`,
      })),
    ]
  if (what.value === 'tracks') return data.tracks.map((t) => ({ value: t.id, label: t.name }))
  const said = (log.value ?? []).map((r) => ({ value: String(r.number), label: `${r.number}: ${r.title}` }))
  return [{ value: NOW, label: 'as it stands' }, ...said, { value: '0', label: '0: as it came' }]
})
watch(
  what,
  (now) => {
    row.value = ''
    const [first, second] = now === 'lanes' && selection.lanes.length ? selection.lanes : options.value.map((o) => o.value)
    const before = Number.isNaN(since) ? Math.max(session.data!.revision - 1, 0) : since
    one.value = now === 'revisions' ? String(before) : (first ?? '')
    other.value = now === 'revisions' ? NOW : (second ?? options.value.find((o) => o.value !== one.value)?.value ?? '')
  },
  { immediate: true },
)
watch([one, other], () => (row.value = ''))
function side(id: string): Schemas['SideIn'] {
  if (what.value === 'lanes' && id.startsWith(ASIDE)) return { alternative: id.slice(ASIDE.length) }
  if (what.value === 'lanes') return { lane: id, track: null, revision: null }
  if (what.value === 'tracks') return { lane: null, track: id, revision: null }
  return { lane: null, track: null, revision: id === NOW ? session.data!.revision : Number(id) }
}
const { answer, problem } = useAsking(
  () => {
    const data = session.data
    if (!data || (what.value !== 'revisions' && (!one.value || !other.value))) return null
    const view = { start: 0, end: data.length, columns: 1400, strips: [], pencil: true }
    return {
      id: data.id,
      revision: data.revision,
      body: { one: side(one.value), other: side(other.value), row: row.value, view },
    }
  },
  ({ id, body }, signal) => asked(api.POST('/api/sessions/{id}/compare', { params: { path: { id } }, body, signal })),
)
const differing = computed(() => answer.value?.rows.filter((r) => r.kind !== 'same').length ?? 0)
const verdict = computed(() => {
  const { rows, same } = answer.value ?? { rows: [], same: false }
  if (same) return 'These are the same'
  if (what.value === 'lanes' && rows[0]) return `Up to ${rows[0].largest} apart, at ${rows[0].at_text}`
  const lanes = what.value === 'tracks' ? `of ${counted(rows.length, 'parameter')} that both have` : ''
  return `${differing.value} ${differing.value === 1 ? 'differs' : 'differ'} ${lanes}`.trim()
})
const KINDS = { same: 'the same', changed: '', 'only one': 'only on the one', 'only other': 'only on the other' }
const current = computed(() => answer.value?.rows.find((r) => r.key === row.value) ?? answer.value?.rows[0])

/** The charts to draw: both sides in one or beside each other, and below them their difference. */
const charts = computed(() => {
  const drawn = answer.value?.drawn
  const { one, other, largest } = current.value ?? { one: '', other: '', largest: '' }
  if (!drawn) return []
  const ends = (n: number) => ({ low: drawn.lows[n]!, high: drawn.highs[n]! })
  const first = { curve: drawn.one, scale: drawn.one_scale, ink: 'one' as const, ...ends(0) }
  const second = { curve: drawn.other, scale: drawn.other_scale, ink: 'other' as const, ...ends(1) }
  const gap = { curve: drawn.difference, scale: drawn.difference_scale, ink: 'difference' as const, ...ends(2) }
  const sides = apart.value
    ? [
        { curves: [first], title: one, height: 150 },
        { curves: [second], title: other, height: 150 },
      ]
    : [{ curves: [first, second], title: `${one} (in ink) and ${other} (in pencil)`, height: 220 }]
  return [...sides, { curves: [gap], title: `Difference: the other minus the one, up to ${largest}`, height: 120 }]
})

/** Both lanes on the bench, at the place of the largest difference. */
async function goThere({ at, parameters }: Schemas['ComparedOut']): Promise<void> {
  for (const id of parameters) if (session.parameters.has(id)) bench.goTo(id, { start: at, end: at + 1 })
  bench.cursor = at
  await router.push({ name: 'bench' })
}
</script>

<template>
  <main class="compare" aria-label="Compare">
    <header>
      <h1>Compare</h1>
      <ChoiceButtons
        v-model="what"
        :choices="[
          { value: 'lanes', words: 'two lanes' },
          { value: 'tracks', words: 'two tracks' },
          { value: 'revisions', words: 'two revisions' },
        ]"
        asks="What to compare"
      />
      <Chooser v-model="one" class="side" label="The one" :options="options" />
      <span class="soft">with</span>
      <Chooser v-model="other" class="side" label="The other" :options="options" />
    </header>
    <p v-if="what !== 'revisions' && options.length < 2" class="verdict soft">
      There are no two {{ what }} to compare in this session.
    </p>
    <p v-else-if="problem" class="verdict warn" role="alert">{{ sentence(problem) }}</p>
    <p v-else-if="answer" class="verdict" :class="{ good: answer.same }" role="status">{{ verdict }}</p>
    <div v-if="answer" class="both">
      <div class="rows">
        <table v-if="answer.rows.length">
          <thead>
            <tr>
              <th>What</th>
              <th>Both</th>
              <th>Largest difference</th>
              <th>At</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in answer.rows" :key="r.key" :class="{ on: r === current }">
              <td>
                <button class="link" :aria-pressed="r === current" @click="row = r.key">
                  {{ what === 'tracks' ? r.one : r.one.replace(/, revision.*|, as it.*/, '') }}
                </button>
              </td>
              <td>
                <span class="small">
                  <Spark v-if="r.pictures[1]" class="under" :picture="r.pictures[1]" :width="110" :height="20" />
                  <Spark v-if="r.pictures[0]" :picture="r.pictures[0]" :width="110" :height="20" />
                </span>
              </td>
              <td :class="r.kind === 'same' ? 'soft' : 'number'">
                {{ r.kind === 'same' ? 'the same' : r.largest }}
                <span class="soft">{{ r.kind === 'same' ? '' : KINDS[r.kind] }}</span>
              </td>
              <td class="number">
                <button v-if="r.kind !== 'same'" class="link number" title="Go there on the bench" @click="goThere(r)">
                  {{ r.at_text }}
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="soft">No lane differs.</p>
        <p v-for="said in answer.only" :key="said" class="soft">{{ said.charAt(0).toUpperCase() + said.slice(1) }}</p>
      </div>
      <section v-if="answer.drawn && current" class="drawn" aria-label="Curves">
        <p class="tools">
          <ElCheckbox v-model="apart" label="side by side" size="small" />
          <button class="link" @click="goThere(current)">go there on the bench</button>
        </p>
        <PairChart v-for="chart in charts" :key="chart.title" v-bind="chart" :mark="current.at" />
      </section>
    </div>
  </main>
</template>

<style scoped>
.compare {
  overflow: auto;
  padding: 18px 28px;
  background: var(--sheet);
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
}
h1 {
  font-size: 20px;
  margin-right: 10px;
}
.side {
  width: 260px;
}
.verdict {
  font-size: 17px;
  font-weight: 650;
  padding: 14px 0 10px;
}
.good {
  color: var(--good);
}
.warn {
  color: var(--fresh);
}
.both {
  display: grid;
  grid-template-columns: minmax(300px, 470px) minmax(0, 1fr);
  gap: 26px;
  align-items: start;
}
table {
  border-collapse: collapse;
  width: 100%;
  margin-bottom: 8px;
}
th {
  text-align: left;
  font-weight: 600;
  color: var(--soft);
  border-bottom: 1px solid var(--line);
  padding: 3px 8px 3px 0;
}
td {
  border-bottom: 1px solid var(--quiet-line);
  padding: 4px 8px 4px 0;
}
tr.on td {
  background: var(--sand);
}
.small {
  position: relative;
  display: block;
  width: 110px;
  height: 20px;
}
.small svg {
  position: absolute;
  inset: 0;
}
.under {
  color: var(--pencil);
}
.tools {
  display: flex;
  gap: 18px;
  align-items: center;
  justify-content: flex-end;
}
@media (width < 1000px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
