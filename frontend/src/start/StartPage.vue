<script setup lang="ts">
// The start page: sessions with small pictures of their lanes, import by drop or picker, the demo.
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, asked, refusal, sentence, ServerProblem, surely, type Format, type Problem, type SessionLine } from '../api/client'
import Spark from '../parts/Spark.vue'
import { upload, type Sent } from '../api/transfer'
import { newTicket } from '../state/waiting'
import { helpAt, version } from '../lib/help'
import { counted } from '../lib/words'
import ReportList from '../parts/ReportList.vue'
import type { ReportOut } from '../api/client'

const router = useRouter()
const formats = ref<Format[]>([])
const lines = ref<SessionLine[]>([])
const away = ref<SessionLine[]>([])
const trouble = ref('')
const loading = ref(true)
const over = ref(false)
const progress = ref<number | null>(null)
const reading = ref<number | null>(null)
const before = ref(0)
const imported = ref<{ id: number; name: string; report: ReportOut }[]>([])
const removing = ref<number | null>(null)
const picker = ref<HTMLInputElement | null>(null)
const renaming = ref<number | null>(null)
const newName = ref('')
/** Whether this is another version than the one whose news were read here last. */
const isNew = ref(false)
const SEEN = 'velmot.seen'
onMounted(() => {
  const seen = localStorage.getItem(SEEN)
  isNew.value = !!seen && seen !== version
  if (!seen) localStorage.setItem(SEEN, version)
})
function readNews(): void {
  localStorage.setItem(SEEN, version)
  isNew.value = false
}

async function guarded(work: () => Promise<void>): Promise<boolean> {
  trouble.value = '' // before, as a file may be refused while the work goes on
  try {
    await work()
    return true
  } catch (error) {
    trouble.value = sentence(refusal(error))
    return false
  }
}
async function knowFormats(): Promise<void> {
  formats.value = await asked(api.GET('/api/formats'))
}
async function list(): Promise<void> {
  await knowFormats()
  lines.value = await asked(api.GET('/api/sessions', {}))
  away.value = await asked(api.GET('/api/sessions', { params: { query: { deleted: true } } }))
  loading.value = false
}
onMounted(() => {
  document.title = 'Velmot'
  void guarded(list)
})

async function openDemo(): Promise<void> {
  await guarded(async () => {
    const params = { query: { asked: newTicket() } }
    const { id } = await surely(() => api.POST('/api/demo', { params }))
    await router.push(`/sessions/${id}`)
  })
}
async function putAway(line: SessionLine): Promise<void> {
  await guarded(async () => {
    await surely(() => api.DELETE('/api/sessions/{id}', { params: { path: { id: line.id } } }))
    await list()
  })
}
async function bringBack(line: SessionLine): Promise<void> {
  await guarded(async () => {
    await surely(() => api.POST('/api/sessions/{id}/restore', { params: { path: { id: line.id } } }))
    await list()
  })
}
/** Remove a deleted session for good: asked twice, as there is no way back. */
async function remove(line: SessionLine): Promise<void> {
  removing.value = null
  await guarded(async () => {
    await surely(() => api.POST('/api/sessions/{id}/remove', { params: { path: { id: line.id } } })).catch(isAway)
    await list()
  })
}
/** What is there no more is removed. */
function isAway(error: unknown): void {
  if (!(error instanceof ServerProblem && error.status === 404)) throw error
}
async function rename(line: SessionLine): Promise<void> {
  if (renaming.value !== line.id) return
  renaming.value = null
  if (!newName.value.trim() || newName.value === line.name) return
  const done = await guarded(async () => {
    const body = { name: newName.value }
    await surely(() => api.PATCH('/api/sessions/{id}', { params: { path: { id: line.id } }, body }))
    await list()
  })
  if (!done) renaming.value = line.id // what was typed is still there
}

function dropped(event: DragEvent): void {
  over.value = false
  void sendAll([...(event.dataTransfer?.files ?? [])])
}
function picked(): void {
  void sendAll([...(picker.value?.files ?? [])])
  if (picker.value) picker.value.value = ''
}
/** Several files come in one after the other, each a session with a report of its own. */
async function sendAll(files: File[]): Promise<void> {
  imported.value = []
  trouble.value = ''
  if (!formats.value.length && !(await guarded(knowFormats))) return // they say how large a file may be
  for (const file of files) await send(file)
  if (imported.value.length) void list().catch(() => undefined)
}
function failed(said: string): void {
  trouble.value = trouble.value ? `${trouble.value}. ${said}` : said
}

const MEGABYTE = 1024 * 1024
/** What is wrong with a file's size, by the format its name says; nothing if it may come in. */
function tooLarge(file: File): string {
  const named = formats.value.filter((f) => f.endings.some((ending) => file.name.toLowerCase().endsWith(ending)))
  const most = Math.max(...(named.length ? named : formats.value).map((f) => f.largest))
  if (!formats.value.length || file.size <= most) return ''
  return `“${file.name}” has ${Math.round(file.size / MEGABYTE)} MB. Expected: a file of at most ${most / MEGABYTE} MB`
}
const endings = computed(() => formats.value.flatMap((f) => f.endings).join(','))
const said = computed(() => formats.value.map((f) => `${f.called} (${f.endings[0]})`).join(' or '))

const ASK_EVERY = 400 // ms
/** How far the server has read what it has. */
async function readSoFar(ticket: string): Promise<void> {
  if (progress.value !== 100) return
  const found = await asked(api.GET('/api/waiting/{ticket}', { params: { path: { ticket } } })).catch(() => null)
  if (found?.part == null) return
  before.value = found.before
  reading.value = Math.round(found.part * 100)
}
async function send(file: File): Promise<void> {
  const large = tooLarge(file)
  if (large) {
    failed(large)
    return
  }
  const ticket = newTicket()
  const asking = window.setInterval(() => void readSoFar(ticket), ASK_EVERY)
  progress.value = 0
  const come = await upload(`/api/sessions/import?ticket=${ticket}`, file, (part) => (progress.value = part * 100))
  window.clearInterval(asking)
  progress.value = reading.value = null
  before.value = 0
  finish(come, file.name)
}
function finish({ status, answer: said }: Sent, name: string): void {
  if (!status) {
    failed(`Velmot’s server does not answer. Whether “${name}” was imported is seen in the list, once it is back`)
    return
  }
  if (!said) {
    failed(`“${name}” could not be imported: the server answered ${status}`)
    return
  }
  const answer = said as { id: number; report: ReportOut } & Problem
  if (status !== 200) {
    failed(`“${name}” was not imported: ${sentence(answer)}`)
    return
  }
  imported.value.push({ id: answer.id, name, report: answer.report })
}
/** A day and a time, as this machine writes them. */
function when(moment: string): string {
  return new Date(moment).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
}
</script>

<template>
  <main class="start" @dragover.prevent="over = true" @dragleave.self="over = false" @drop.prevent="dropped">
    <header>
      <h1>Velmot<i>.</i></h1>
      <p>Carry automation to where it is needed, exactly, and see what happens before it does.</p>
      <p>
        <RouterLink class="link" :to="{ name: 'phrases' }">The phrase book</RouterLink>{{ ' ' }}
        <span class="soft">keeps curves for every session.</span>
      </p>
      <p v-if="helpAt">
        <a class="link" :href="`${helpAt}first-ten-minutes.html`" target="velmot-help">The first ten minutes</a>,
        <a class="link" :href="`${helpAt}tasks/README.html`" target="velmot-help">tasks</a>{{ isNew ? ', ' : ''
        }}<a v-if="isNew" class="link" :href="`${helpAt}CHANGELOG.html`" target="velmot-help" @click="readNews"
          >what is new in {{ version }}</a
        >
      </p>
    </header>

    <section class="bring" :class="{ over }" aria-label="Bring something in">
      <div>
        <h2>Bring in a file</h2>
        <p class="soft">Drop it anywhere on this page: {{ said }}.</p>
      </div>
      <input
        ref="picker"
        class="out-of-sight"
        type="file"
        multiple
        :accept="endings"
        aria-label="File to import"
        tabindex="-1"
        @change="picked"
      />
      <ElButton type="primary" @click="picker?.click()">Choose a file</ElButton>
      <ElButton @click="openDemo">Open a fresh Skerry Light, the sample</ElButton>
      <ElProgress v-if="progress !== null" :percentage="Math.round(progress)" :stroke-width="6" aria-label="Import progress" />
      <p v-if="progress === 100" class="soft reading" role="status">
        <template v-if="before">
          All of it is here. Large files are read one after the other: {{ before }} {{ before === 1 ? 'is' : 'are' }} before this
          one.
        </template>
        <template v-else>All of it is here and is being read now{{ reading === null ? '' : `: ${reading} %` }}.</template>
      </p>
    </section>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <section v-for="file in imported" :key="file.id" class="imported" :aria-label="`Import report of ${file.name}`">
      <h2>“{{ file.name }}” is in</h2>
      <ReportList :report="file.report" />
      <ElButton type="primary" @click="router.push(`/sessions/${file.id}`)">Open it</ElButton>
    </section>

    <section aria-label="Sessions">
      <h2 class="heading">Sessions</h2>
      <p v-if="!loading && !lines.length" class="soft none">
        There is none yet. Bring in a file, or open the sample to look around.
      </p>
      <ul class="cards">
        <li v-for="line in lines" :key="line.id">
          <RouterLink class="card" :to="`/sessions/${line.id}`" :aria-label="`Open ${line.name}`">
            <div class="pictures">
              <Spark v-for="(p, i) in line.picture" :key="i" :picture="p" :width="252" :height="24" />
              <p v-if="!line.picture.length" class="soft">no lanes yet</p>
            </div>
          </RouterLink>
          <div class="foot">
            <input
              v-if="renaming === line.id"
              v-model="newName"
              class="naming"
              aria-label="New name"
              maxlength="300"
              autofocus
              @keydown.enter="rename(line)"
              @keydown.escape="renaming = null"
              @blur="rename(line)"
            />
            <RouterLink v-else class="name" :to="`/sessions/${line.id}`" :title="line.name">{{ line.name }}</RouterLink>
            <p class="soft">
              {{ counted(line.bars, 'bar') }}, {{ counted(line.tracks, 'track') }}, {{ counted(line.lanes, 'lane') }},
              {{ counted(line.points, 'point') }}<br />
              <time :datetime="line.changed">changed {{ when(line.changed) }}</time>
            </p>
            <p class="acts">
              <button class="link soft" @click="((renaming = line.id), (newName = line.name))">rename</button>
              <button class="link soft" :aria-label="`Delete ${line.name}`" @click="putAway(line)">delete</button>
            </p>
          </div>
        </li>
      </ul>
    </section>
    <section v-if="away.length" class="away" aria-label="Deleted sessions">
      <h2 class="heading">Deleted</h2>
      <p v-for="line in away" :key="line.id">
        {{ line.name }}
        <button class="link soft" :aria-label="`bring back ${line.name}`" @click="bringBack(line)">bring back</button>
        <template v-if="removing === line.id">
          Remove it with its whole history? There is no way back.
          <button class="link" :aria-label="`Yes, remove ${line.name}`" @click="remove(line)">yes, remove</button>
          <button class="link soft" @click="removing = null">keep</button>
        </template>
        <button v-else class="link soft" :aria-label="`remove ${line.name} for good`" @click="removing = line.id">
          remove for good
        </button>
      </p>
    </section>
  </main>
</template>

<style scoped>
.start {
  min-height: 100%;
  padding: 34px max(40px, calc(50% - 460px)) 60px;
}
header {
  margin-bottom: 22px;
}
h1 {
  font-size: 38px;
  font-weight: 800;
  letter-spacing: -0.03em;
  line-height: 1;
}
h1 i {
  font-style: normal;
  color: var(--fresh);
}
header p {
  font-size: 15px;
  margin-top: 8px;
}
h2 {
  font-size: 14px;
}
.heading {
  margin: 26px 0 10px;
  padding-bottom: 5px;
  border-bottom: 1px solid var(--ink);
}
.bring {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 14px 16px;
  border: 1px dashed var(--pencil);
  border-radius: 4px;
  background: var(--sheet);
}
.bring > div:first-child {
  flex: 1;
  min-width: 300px;
}
.bring .el-button + .el-button {
  margin-left: 0;
}
.bring .el-progress,
.bring .reading {
  flex-basis: 100%;
}
.bring.over {
  border-color: var(--ink);
  border-style: solid;
  background: var(--sand);
}
.trouble {
  margin-top: 10px;
  padding: 9px 14px;
  background: var(--fresh-paper);
  color: var(--fresh);
  font-weight: 600;
  overflow-wrap: anywhere;
}
.imported {
  margin-top: 10px;
  padding: 12px 16px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 4px;
  display: grid;
  gap: 8px;
  justify-items: start;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 16px;
}
.card {
  display: block;
  padding: 12px 14px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-bottom: 0;
  border-radius: 4px 4px 0 0;
  text-decoration: none;
}
li:hover .card,
li:hover .foot {
  border-color: var(--pencil);
}
.pictures {
  height: 104px;
  display: grid;
  gap: 2px;
  align-content: center;
  overflow: hidden;
}
.foot {
  padding: 8px 14px 9px;
  border: 1px solid var(--line);
  border-radius: 0 0 4px 4px;
  background: var(--paper);
}
.name {
  display: block;
  font-weight: 700;
  font-size: 14px;
  color: var(--ink);
  text-decoration: none;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name:hover {
  text-decoration: underline;
}
.naming {
  font: inherit;
  font-weight: 700;
  width: 100%;
  border: 1px solid var(--ink);
  border-radius: 3px;
  padding: 1px 5px;
}
.acts {
  display: flex;
  gap: 12px;
  margin-top: 4px;
}
.away p {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  padding: 3px 0;
}
</style>
