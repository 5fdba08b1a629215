<script setup lang="ts">
// The log: every applied change, the newest first, found by its words, lane, track, verb or bars; marks are its headings.
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  api,
  asked,
  surely,
  type AnyRequest,
  sentence,
  type LogLine,
  type LogPage,
  type MarkOut,
  type Schemas,
} from '../api/client'
import { VERBS_ASKED } from '../lib/table'
import { positionText } from '../lib/said'
import { useAlternatives } from '../state/alternatives'
import { useAsking } from '../state/asking'
import { useBench } from '../state/bench'
import { useNotices } from '../state/notices'
import { useSelection } from '../state/selection'
import { useSets } from '../state/sets'
import { isReopenable, useWorksheet } from '../state/worksheet'
import { useSession } from '../state/session'
import { windowName } from '../state/windowName'
import { counted, isolated } from '../lib/words'
import Chooser from '../parts/Chooser.vue'
import LogPicture from './LogPicture.vue'
import MarkForm from './MarkForm.vue'
import MarkHead from './MarkHead.vue'
import TidyHistory from './TidyHistory.vue'

const session = useSession()
const worksheet = useWorksheet()
const bench = useBench()
const selection = useSelection()
const sets = useSets()
const alternatives = useAlternatives()
const notices = useNotices()
const router = useRouter()
const route = useRoute()

// ── what is looked for ───────────────────────────────────────────────────────────────────────

const words = ref('')
const verb = ref('')
const track = ref('')
const inBars = ref(false)
const lane = computed(() => String(route.query['lane'] ?? ''))
const verbs = [{ value: '', label: 'any verb' }, ...VERBS_ASKED.map((name) => ({ value: name, label: name }))]
const tracks = computed(() => [
  { value: '', label: 'any track' },
  ...(session.data?.tracks ?? []).map((t) => ({ value: t.id, label: t.name })),
])
const range = computed(() => (inBars.value ? selection.range : null))
const looksFor = computed(() => !!(words.value.trim() || verb.value || track.value || lane.value || range.value))
/** How often the page was asked for anew, as a mark came or the history was tidied. */
const again = ref(0)

interface Question {
  id: number
  revision: number
  again: number
  query: Record<string, string | number>
}
const question = computed<Question | null>(() => {
  if (!session.data) return null
  const query: Record<string, string | number> = {}
  if (words.value.trim()) query['words'] = words.value.trim()
  if (verb.value) query['verb'] = verb.value
  if (track.value) query['track'] = track.value
  if (lane.value) query['lane'] = lane.value
  if (range.value) Object.assign(query, range.value)
  return { id: session.data.id, revision: session.data.revision, again: again.value, query }
})
const { answer: newest, problem } = useAsking(
  () => question.value,
  ({ id, query }, signal) => asked(api.GET('/api/sessions/{id}/log', { params: { path: { id }, query }, signal })),
  { keep: true },
)
/** Pages that were asked for below the newest one. */
const older = ref<LogPage[]>([])
watch(newest, () => (older.value = []))
const pages = computed(() => (newest.value ? [newest.value, ...older.value] : []))
const lines = computed(() => pages.value.flatMap((page) => page.lines))
const more = computed(() => pages.value.at(-1)?.more ?? false)
const marks = computed(() => new Map((newest.value?.marks ?? []).map((m) => [m.number, m])))

let coming = false
async function showOlder(): Promise<void> {
  if (coming || !more.value || !question.value) return
  coming = true
  const { query } = question.value
  const mine = newest.value
  await session.guarded(async () => {
    const next = { ...query, before: lines.value.at(-1)!.number }
    const path = { id: session.data!.id }
    const page = await asked(api.GET('/api/sessions/{id}/log', { params: { path, query: next } }))
    if (mine === newest.value) older.value = [...older.value, page]
  })
  coming = false
}
/** Older lines come by themselves, as the end of those that are there comes near. */
const foot = ref<HTMLElement | null>(null)
const near = new IntersectionObserver((seen) => seen.some((x) => x.isIntersecting) && void showOlder(), { rootMargin: '600px' })
watch(foot, (now, was) => {
  if (was) near.unobserve(was)
  if (now) near.observe(now)
})
onBeforeUnmount(() => near.disconnect())

// ── pictures ─────────────────────────────────────────────────────────────────────────────────

const pictures = ref(new Map<number, Schemas['StepPicture']>())
const askedFor = new Set<number>()
watch(lines, async (now) => {
  const wanted = now.map((l) => l.number).filter((n) => !askedFor.has(n))
  if (!wanted.length || !session.data) return
  for (const n of wanted) askedFor.add(n)
  for (let i = 0; i < wanted.length; i += 100) {
    const query = { numbers: wanted.slice(i, i + 100).join(',') }
    const call = { params: { path: { id: session.data.id }, query } }
    const found = await asked(api.GET('/api/sessions/{id}/log/pictures', call)).catch(() => [])
    pictures.value = new Map([...pictures.value, ...found.map((p) => [p.number, p] as const)])
  }
})

// ── ways that were left ──────────────────────────────────────────────────────────────────────

/** Lines one after the other that lie on ways that were left are folded into one, unless something is looked for. */
interface Group {
  key: number
  aside: boolean
  lines: LogLine[]
}
const groups = computed(() => {
  const out: Group[] = []
  for (const line of lines.value) {
    const aside = line.aside && !looksFor.value && !marks.value.has(line.number)
    const last = out.at(-1)
    if (aside && last?.aside) last.lines.push(line)
    else out.push({ key: line.number, aside, lines: [line] })
  }
  return out
})
const opened = ref<number[]>([])
const toggle = (key: number) =>
  (opened.value = opened.value.includes(key) ? opened.value.filter((k) => k !== key) : [...opened.value, key])

// ── what is done from here ───────────────────────────────────────────────────────────────────

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
  return isReopenable(line.request ?? {})
}
/** Take the newest step back and put its settings on the worksheet; Redo brings it back as it was. */
async function reopen(line: LogLine): Promise<void> {
  await session.walk('undo')
  worksheet.reopen(line.request as AnyRequest)
  await router.push({ name: 'bench' })
}
/** The session as it was, on a bench that is read only. */
async function lookAt(number: number): Promise<void> {
  await session.guarded(async () => {
    const path = { id: session.data!.id, number }
    const { id } = await asked(api.GET('/api/sessions/{id}/as-it-was/{number}', { params: { path } }))
    await router.push({ name: 'bench', params: { id } })
  })
}
async function takeOut(number: number): Promise<void> {
  await session.guarded(async () => {
    const path = { id: session.data!.id, number }
    const { id } = await asked(api.GET('/api/sessions/{id}/as-it-was/{number}', { params: { path } }))
    window.location.assign(`/api/sessions/${id}/export/session`)
  })
}
/** All of it as it was, as one new step. */
async function goBack(number: number): Promise<void> {
  const whole = { tracks: [], parameters: [], start: null, end: null, edges: 'seal' as const, ramp: 0 }
  const title = await session.apply({ verb: 'bring back', revision: number, ...whole })
  if (title) notices.note(`${title}: done as one new step. Undo takes it back.`)
}
async function bringBack(number: number): Promise<void> {
  alternatives.bringBack(number, marks.value.get(number)?.name ?? '')
  await router.push({ name: 'bench' })
}
const marking = ref<number | null>(null)
async function mark(number: number, name: string, note: string): Promise<void> {
  const ok = await session.guarded(async () => {
    const path = { id: session.data!.id, number }
    await surely(() => api.PUT('/api/sessions/{id}/marks/{number}', { params: { path }, body: { name, note } }))
  })
  if (ok) marking.value = null
  again.value++
}
async function unmark({ number }: MarkOut): Promise<void> {
  await session.guarded(async () => {
    const path = { id: session.data!.id, number }
    await surely(() => api.DELETE('/api/sessions/{id}/marks/{number}', { params: { path } }))
  })
  again.value++
}
const canGoBack = (line: LogLine) => line.number !== session.data?.revision
onMounted(() => (inBars.value = false))
</script>

<template>
  <main class="log" aria-label="Log">
    <h1>Log</h1>
    <p class="soft">Every change that was applied, the newest first. Undo and Redo walk along it, also after a restart.</p>
    <div class="search" role="search">
      <input v-model="words" type="search" aria-label="Words of a step" placeholder="words" maxlength="300" />
      <Chooser v-model="verb" label="Verb" none="any verb" :options="verbs" />
      <Chooser v-model="track" label="Track" none="any track" :options="tracks" />
      <ElCheckbox v-if="selection.range" v-model="inBars" label="in the chosen bars" size="small" />
      <span v-if="lane" class="lane"
        >what happened to <b>{{ session.parameterName(lane) }}</b>
        <RouterLink class="link soft" :to="{ name: 'log' }">all again</RouterLink></span
      >
    </div>
    <p v-if="problem" class="none" role="alert">{{ sentence(problem) }}</p>
    <p v-else-if="newest && !lines.length" class="none">
      {{ looksFor ? 'No step is like that.' : 'Nothing has been changed yet.' }}
    </p>
    <ol>
      <template v-for="group in groups" :key="group.key">
        <li v-if="group.aside" class="left">
          <button class="link soft" :aria-expanded="opened.includes(group.key)" @click="toggle(group.key)">
            {{ counted(group.lines.length, 'step') }} of a way that was left
          </button>
        </li>
        <template v-for="line in !group.aside || opened.includes(group.key) ? group.lines : []" :key="line.number">
          <li v-if="marks.has(line.number)" class="heading">
            <MarkHead :mark="marks.get(line.number)!" @edit="marking = line.number" @off="unmark(marks.get(line.number)!)" />
          </li>
          <li class="line" :class="{ undone: line.undone, aside: line.aside, here: line.current }" :data-revision="line.number">
            <span class="number soft">{{ line.number }}</span>
            <div>
              <p>
                <b>{{ isolated(line.title) }}</b><span v-if="line.current" class="soft">you are here</span
                ><span v-else-if="line.undone" class="soft">{{ line.aside ? 'left' : 'undone' }}</span>
                <span v-if="line.folds" class="soft">with {{ counted(line.folds, 'step') }} before it</span>
                <span v-if="line.window && line.window !== windowName" class="soft">in window {{ line.window }}</span>
              </p>
              <MarkForm
                v-if="marking === line.number"
                :mark="marks.get(line.number)"
                @keep="(name, note) => mark(line.number, name, note)"
                @leave="marking = null"
              />
              <p class="does">
                <button v-if="!marks.has(line.number)" class="link soft" @click="marking = line.number">mark it</button>
                <template v-if="canGoBack(line)">
                  <button class="link soft" @click="lookAt(line.number)">look at it</button>
                  <button class="link soft" @click="bringBack(line.number)">bring back parts</button>
                  <button class="link soft" @click="goBack(line.number)">go back to it</button>
                </template>
                <button v-if="marks.has(line.number)" class="link soft" @click="takeOut(line.number)">take out as a file</button>
                <RouterLink v-if="canGoBack(line)" class="link soft" :to="{ name: 'compare', query: { revision: line.number } }"
                  >compare</RouterLink
                >
                <button
                  v-if="line.number < (session.data?.revision ?? 0) && !line.undone"
                  class="link soft"
                  title="Pin every lane that a later step touched"
                  @click="showSince(line.number)"
                >
                  show on the bench what differs from here
                </button>
                <button v-if="reopenable(line)" class="link" title="And apply them changed, in its place" @click="reopen(line)">
                  reopen its settings
                </button>
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
            <LogPicture v-if="pictures.has(line.number)" :picture="pictures.get(line.number)!" />
            <span v-else />
            <time class="soft number" :datetime="line.made">{{
              new Date(line.made).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
            }}</time>
          </li>
        </template>
      </template>
    </ol>
    <p v-if="more" ref="foot" class="older"><ElButton @click="showOlder">Show older changes</ElButton></p>
    <TidyHistory v-else-if="lines.length && !looksFor" @tidied="again++" />
  </main>
</template>

<style scoped>
.link + .soft {
  margin-left: 0.5em;
}
.log {
  overflow: auto;
  padding: 22px max(40px, calc(50% - 430px));
  background: var(--sheet);
}
h1 {
  font-size: 20px;
  margin-bottom: 4px;
}
.line b + .soft,
.line b ~ .soft + .soft {
  margin-left: 0.8em;
}
.search {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding-top: 14px;
}
.search .chooser {
  width: 150px;
}
.search input[type='search'] {
  width: 24ch;
}
.search input,
.line :deep(.mark-form input) {
  padding: 3px 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
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
.line {
  display: grid;
  grid-template-columns: 40px 1fr auto auto;
  gap: 10px;
  padding: 9px 4px;
  border-bottom: 1px solid var(--line);

  /* Ten thousand of them scroll: those out of sight are not laid out. */
  content-visibility: auto;
  contain-intrinsic-size: auto 74px;
}
.left,
.heading {
  padding: 6px 4px;
  border-bottom: 1px solid var(--line);
}
.heading {
  padding: 0;
}
.does {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.does .link {
  margin: 0;
}
.line.here {
  background: var(--sand);
}
.line.aside {
  padding-left: 28px;
}
.line.undone b {
  text-decoration: line-through;
  color: var(--soft);
}
</style>
