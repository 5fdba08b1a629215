<script setup lang="ts">
// Taking the work out: the session file, or a MIDI file with a controller for each chosen parameter.
import { computed, onMounted, ref } from 'vue'
import { api, asked, sentence, type Schemas } from '../api/client'
import { download } from '../api/transfer'
import ReportList from '../parts/ReportList.vue'
import PaperSection from './PaperSection.vue'
import SoundSection from './SoundSection.vue'
import { useAsking } from '../state/asking'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { counted } from '../lib/words'

type Choice = Schemas['ChoiceIO'] & { chosen: boolean }
const session = useSession()
const selection = useSelection()
const choices = ref<Choice[]>([])
const perBeat = ref(960)
const failed = ref('')
const id = computed(() => session.data!.id)
const chosen = computed(() => encodeURIComponent(selection.lanes.join('\n')))
const body = computed(() => ({
  choices: choices.value
    .filter((c) => c.chosen)
    .map(({ parameter, name, controller, low, high }) => ({ parameter, name, controller, low: Number(low), high: Number(high) })),
  per_beat: Number(perBeat.value),
}))

onMounted(() =>
  session.guarded(async () => {
    const path = { id: id.value }
    const usual = await asked(api.GET('/api/sessions/{id}/export/midi', { params: { path } }))
    perBeat.value = usual.per_beat
    choices.value = usual.choices.map((c) => ({ ...c, chosen: true }))
  }),
)
const question = computed(() => (body.value.choices.length ? { id: id.value, body: body.value } : null))
/** What the file would hold. */
const { answer: report, problem } = useAsking(
  () => question.value,
  ({ id, body }, signal) => asked(api.POST('/api/sessions/{id}/export/midi', { params: { path: { id } }, body, signal })),
)
/** The file that the session came from, if it can be written back into, and what it would hold. */
const source = computed(() => session.data!.source)
const into = computed(() => (source.value ? { id: id.value, revision: session.data!.revision } : null))
const { answer: intoReport, problem: intoProblem } = useAsking(
  () => into.value,
  ({ id }, signal) => asked(api.GET('/api/sessions/{id}/export/into/report', { params: { path: { id } }, signal })),
)
const trouble = computed(() => failed.value || (problem.value ? sentence(problem.value) : ''))

async function takeMidi(): Promise<void> {
  failed.value = await download(`/api/sessions/${id.value}/export/midi/file`, body.value, `${session.data!.name}.mid`)
}
</script>

<template>
  <main class="takeout" aria-label="Take out">
    <h1>Take it out</h1>
    <section v-if="source">
      <h2>Into the file it came from</h2>
      <p class="soft">
        Only lanes that were changed are written anew in {{ source }}; its notes, texts and everything else stay event for event.
      </p>
      <a class="button" :href="`/api/sessions/${id}/export/into`" download>Take {{ source }}</a>
      <p v-if="intoProblem" class="trouble" role="alert">{{ sentence(intoProblem) }}</p>
      <ReportList v-else-if="intoReport" class="report" :report="intoReport" came="Written" />
    </section>
    <SoundSection />
    <PaperSection />
    <section>
      <h2>As a Velmot session file</h2>
      <p class="soft">Everything, to the last bit, in an open format that reads back the same.</p>
      <a class="button" :href="`/api/sessions/${id}/export/session`" download>Take the session file</a>
    </section>
    <section>
      <h2>As a table</h2>
      <p class="soft">One row a point, for any spreadsheet (CSV): track, parameter, home, beat, seconds, value, unit, shape.</p>
      <a class="button" :href="`/api/sessions/${id}/export/table`" download>Take every lane</a>
      <a v-if="selection.lanes.length" class="button" :href="`/api/sessions/${id}/export/table?lanes=${chosen}`" download
        >Take the {{ counted(selection.lanes.length, 'chosen lane') }}</a
      >
    </section>
    <section>
      <h2>{{ source ? 'As a new MIDI file' : 'As a MIDI file' }}</h2>
      <p class="soft">
        Each chosen parameter becomes a controller, with no more events than it takes to stay within half a step.
      </p>
      <p v-if="!choices.length" class="none">There is no lane to write.</p>
      <p v-else class="all">
        <button class="link" @click="choices.forEach((c) => (c.chosen = true))">choose all</button>
        <button class="link" @click="choices.forEach((c) => (c.chosen = false))">choose none</button>
      </p>
      <table v-if="choices.length">
        <thead>
          <tr>
            <th>Parameter</th>
            <th>as controller</th>
            <th>from</th>
            <th>to</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in choices" :key="c.parameter" :class="{ off: !c.chosen }">
            <td><ElCheckbox v-model="c.chosen" :label="c.name" /></td>
            <td><input v-model.lazy="c.controller" class="number" :aria-label="`Controller of ${c.name}`" /></td>
            <td><input v-model.lazy.number="c.low" class="number" :aria-label="`Lowest value of ${c.name}`" /></td>
            <td><input v-model.lazy.number="c.high" class="number" :aria-label="`Highest value of ${c.name}`" /></td>
          </tr>
        </tbody>
      </table>
      <label v-if="choices.length" class="ticks">Ticks per beat <input v-model.lazy.number="perBeat" class="number" /></label>
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <ElButton v-if="choices.length" type="primary" :disabled="!!trouble || !body.choices.length" @click="takeMidi"
        >Take the MIDI file</ElButton
      >
      <ReportList v-if="report" class="report" :report="report" came="Written" />
    </section>
    <section v-if="session.data!.report.came?.length">
      <h2>What its import said</h2>
      <ReportList :report="session.data!.report" />
    </section>
  </main>
</template>

<style scoped>
.takeout {
  overflow: auto;
  padding: 22px max(40px, calc(50% - 400px)) 60px;
  background: var(--sheet);
}
h1 {
  font-size: 20px;
}
section {
  padding: 16px 0;
  border-bottom: 1px solid var(--line);
}
h2 {
  font-size: 15px;
  margin-bottom: 2px;
}
table {
  margin: 10px 0;
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  color: var(--soft);
  font-weight: 600;
  padding: 2px 8px 4px 0;
  border-bottom: 1px solid var(--ink);
}

.all {
  display: flex;
  gap: 12px;
  padding-top: 8px;
}
td {
  padding: 1px 8px 1px 0;
  border-bottom: 1px solid var(--line);
}
tr.off input {
  opacity: 0.55;
}
td input,
.ticks input {
  border: 0;
  border-bottom: 1px dotted var(--ink);
  background: transparent;
  width: 11ch;
  font-size: 13px;
  color: var(--ink);
  padding: 2px;
}
.ticks {
  display: block;
  margin-bottom: 10px;
}
.trouble {
  padding: 8px 12px;
  margin-bottom: 10px;
  background: var(--fresh-paper);
  color: var(--fresh);
  font-weight: 600;
}
.report {
  margin-top: 14px;
}
</style>
