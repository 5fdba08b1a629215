<script setup lang="ts">
// The log: every applied change by name, newest first; what is undone is marked. A click goes there.
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, asked, type AnyRequest, sentence, type LogLine, type LogPage } from '../api/client'
import { positionText } from '../lib/said'
import { useAsking } from '../state/asking'
import { useBench } from '../state/bench'
import { useSets } from '../state/sets'
import { useWorksheet } from '../state/worksheet'
import { useSession } from '../state/session'
import { counted, isolated } from '../lib/words'

const session = useSession()
const worksheet = useWorksheet()
const bench = useBench()
const sets = useSets()
const router = useRouter()
const question = computed(() => (session.data ? { id: session.data.id, revision: session.data.revision } : null))
const { answer: newest, problem } = useAsking(
  () => question.value,
  ({ id }, signal) => asked(api.GET('/api/sessions/{id}/log', { params: { path: { id } }, signal })),
  { keep: true },
)
/** Pages that were asked for below the newest one. */
const older = ref<LogPage[]>([])
watch(newest, () => (older.value = []))
const pages = computed(() => (newest.value ? [newest.value, ...older.value] : []))
const lines = computed(() => pages.value.flatMap((page) => page.lines))
const more = computed(() => pages.value.at(-1)?.more ?? false)

async function showOlder(): Promise<void> {
  await session.guarded(async () => {
    const query = { before: lines.value.at(-1)!.number }
    const page = await asked(api.GET('/api/sessions/{id}/log', { params: { path: { id: session.data!.id }, query } }))
    older.value = [...older.value, page]
  })
}

function span(t: LogLine['touched'][number]): string {
  const bars = session.data!.bars
  return `${positionText(t.start, bars)} to ${positionText(t.end, bars)}`
}
async function goTo(t: LogLine['touched'][number]): Promise<void> {
  bench.goTo(t.parameter, t)
  await router.push({ name: 'bench' })
  bench.going = t.parameter
}

/** Every lane that differs from a revision, on the bench. */
async function showSince(number: number): Promise<void> {
  await sets.pinSince(number)
  await router.push({ name: 'bench' })
}

function reopenable(line: LogLine): boolean {
  return line.request?.['verb'] === 'carry' || line.request?.['verb'] === 'retarget'
}
/** Take the newest step back and put its settings on the worksheet; Redo brings it back as it was. */
async function reopen(line: LogLine): Promise<void> {
  await session.walk('undo')
  worksheet.reopen(line.request as AnyRequest)
  await router.push({ name: 'bench' })
}
</script>

<template>
  <main class="log" aria-label="Log">
    <h1>Log</h1>
    <p class="soft">Every change that was applied, the newest first. Undo and Redo walk along it, also after a restart.</p>
    <p v-if="problem" class="none" role="alert">{{ sentence(problem) }}</p>
    <p v-else-if="newest && !lines.length" class="none">Nothing has been changed yet.</p>
    <ol>
      <li v-for="line in lines" :key="line.number" :class="{ undone: line.undone, here: line.number === session.data?.revision }">
        <span class="number soft">{{ line.number }}</span>
        <div>
          <p>
            <b>{{ isolated(line.title) }}</b> <span v-if="line.undone" class="soft">undone</span
            ><span v-else-if="line.number === session.data?.revision" class="soft">you are here</span>
          </p>
          <p v-if="line.number < (session.data?.revision ?? 0) && !line.undone">
            <button class="link soft" title="Pin every lane that a later step touched" @click="showSince(line.number)">
              show on the bench what differs from here
            </button>
          </p>
          <p v-if="reopenable(line)">
            <button class="link" @click="reopen(line)">reopen its settings</button>
            <span class="soft">and apply them changed, in its place</span>
          </p>
          <p v-for="t in line.touched" :key="t.lane + t.start">
            <button v-if="session.parameters.has(t.parameter)" class="link" @click="goTo(t)">
              {{ session.parameterName(t.parameter) }}
            </button>
            <span v-else>{{ t.name || 'what is no longer there' }}</span>
            <span class="soft number">{{ span(t) }}</span>
          </p>
          <p v-if="line.lanes > line.touched.length" class="soft">
            and {{ counted(line.lanes - line.touched.length, 'more lane') }}
          </p>
        </div>
        <time class="soft number" :datetime="line.made">{{
          new Date(line.made).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
        }}</time>
      </li>
    </ol>
    <p v-if="more" class="older"><ElButton @click="showOlder">Show older changes</ElButton></p>
  </main>
</template>

<style scoped>
.link + .soft {
  margin-left: 0.5em;
}
.log {
  overflow: auto;
  padding: 22px max(40px, calc(50% - 400px));
  background: var(--sheet);
}
h1 {
  font-size: 20px;
  margin-bottom: 4px;
}
.none {
  padding: 30px 0;
}
.older {
  padding: 14px 0;
}
ol {
  margin-top: 16px;
  border-top: 1px solid var(--line);
}
li {
  display: grid;
  grid-template-columns: 40px 1fr auto;
  gap: 10px;
  padding: 9px 4px;
  border-bottom: 1px solid var(--line);
}
li.here {
  background: var(--sand);
}
li.undone b {
  text-decoration: line-through;
  color: var(--soft);
}
</style>
