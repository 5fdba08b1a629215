<script setup lang="ts">
// The phrase book: every phrase with its picture, found by typing, renamed, described, tagged, put away and brought back.
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api, asked, csrfToken, refusal, sentence, surely } from '../api/client'
import { newTicket } from '../state/waiting'
import Chooser from '../parts/Chooser.vue'
import Spark from '../parts/Spark.vue'
import { useBook, type BookLine, type Given } from '../state/book'
import PhraseChart from '../parts/fields/PhraseChart.vue'
import { counted } from '../lib/words'

const book = useBook()
const words = ref('')
const order = ref<'name' | 'length' | 'points'>('name')
const trouble = ref('')
const done = ref('')
const away = ref<BookLine[]>([])
const opened = ref<number | null>(null)
const edited = ref({ name: '', says: '', tags: '' })
/** The opened phrase whole, and its points as they were changed. */
const whole = shallowRef<Given | null>(null)
const points = shallowRef<Given['points']>([])
const picker = ref<HTMLInputElement | null>(null)

async function guarded(work: () => Promise<void>): Promise<void> {
  trouble.value = done.value = ''
  try {
    await work()
  } catch (error) {
    trouble.value = sentence(refusal(error))
  }
}
async function list(): Promise<void> {
  await book.fetch()
  away.value = await asked(api.GET('/api/book', { params: { query: { deleted: true } } }))
}
onMounted(() => {
  document.title = 'Phrase book · Velmot'
  void guarded(list)
})

const shown = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const text = (x: BookLine) => [x.name, x.says, x.shape, ...x.tags].join(' ').toLowerCase()
  const found = book.lines.filter((x) => wanted.every((word) => text(x).includes(word)))
  const by = order.value
  return by === 'name' ? found : [...found].sort((a, b) => a[by] - b[by])
})

// Only the rows in sight are made, so that a book of thousands scrolls.
const ROW = 64
const scroller = ref<HTMLElement | null>(null)
const top = ref(0)
const rows = computed(() => {
  const first = Math.max(Math.floor(top.value / ROW) - 6, 0)
  return { first, lines: shown.value.slice(first, first + 40) }
})

function open(line: BookLine): void {
  opened.value = opened.value === line.id ? null : line.id
  edited.value = { name: line.name, says: line.says, tags: line.tags.join(', ') }
  whole.value = null
  if (opened.value === line.id)
    void guarded(async () => {
      whole.value = await book.open(line.id)
      points.value = whole.value.points
    })
}
function change(line: BookLine): Promise<void> {
  const { name, says, tags } = edited.value
  return guarded(async () => {
    const given = whole.value && points.value !== whole.value.points ? { ...whole.value, points: points.value } : null
    const body = { name, says, tags: tags.split(','), phrase: given }
    await surely(() => api.PATCH('/api/book/{phrase}', { params: { path: { phrase: line.id } }, body }))
    opened.value = null
    await list()
    done.value = `${name.trim()} is kept.`
  })
}
function put(line: BookLine, deleted: boolean): Promise<void> {
  return guarded(async () => {
    await surely(() => api.PATCH('/api/book/{phrase}', { params: { path: { phrase: line.id } }, body: { deleted } }))
    opened.value = null
    await list()
    done.value = deleted ? `${line.name} is put away; sessions that use it keep it.` : `${line.name} is back.`
  })
}
function duplicate(line: BookLine): Promise<void> {
  return guarded(async () => {
    const params = { path: { phrase: line.id }, query: { asked: newTicket() } }
    await surely(() => api.POST('/api/book/{phrase}/copy', { params }))
    await list()
    done.value = `There is another ${line.name}.`
  })
}
function bringIn(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  return guarded(async () => {
    if (!file) return
    const body = new FormData()
    body.append('file', file)
    const params = { query: { asked: newTicket() } }
    const call = { params, body: body as never, bodySerializer: () => body, headers: { 'X-CSRFToken': csrfToken() } }
    const made = await surely(() => api.POST('/api/book/file', call))
    field.value = ''
    await list()
    done.value = `${counted(made.ids.length, 'phrase')} came in.`
  })
}
</script>

<template>
  <main class="book" aria-label="Phrase book">
    <header>
      <RouterLink v-if="$route.name === 'phrases'" class="link soft" to="/">All sessions</RouterLink>
      <h1>Phrase book</h1>
      <p class="soft">Curves kept for every session: placed on any lane, as deep and as long as wanted, and linked.</p>
      <div class="line">
        <input v-model="words" type="search" placeholder="find by any word" aria-label="Find a phrase" @input="top = 0" />
        <Chooser
          v-model="order"
          label="Sort phrases by"
          :options="[
            { value: 'name', label: 'by name' },
            { value: 'length', label: 'shortest first' },
            { value: 'points', label: 'fewest points first' },
          ]"
        />
        <span class="soft">{{ counted(shown.length, 'phrase') }}</span>
        <a class="link" href="/api/book/file" download>take the book out</a>
        <button class="link" @click="picker?.click()">bring phrases in</button>
        <input ref="picker" type="file" hidden accept=".json" aria-label="A file of phrases" @change="bringIn" />
      </div>
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <p v-else-if="done" class="good" role="status">{{ done }}</p>
    </header>
    <div ref="scroller" class="scroller" tabindex="0" aria-label="Phrases" role="region" @scroll="top = scroller!.scrollTop">
      <p v-if="!shown.length" class="soft none">
        {{ book.lines.length ? 'No phrase has these words.' : 'The book is empty. Keep a range of a lane, or bring phrases in.' }}
      </p>
      <ul :style="{ paddingTop: `${rows.first * ROW}px`, minHeight: `${shown.length * ROW}px` }">
        <li v-for="line in rows.lines" :key="line.id" :class="{ open: opened === line.id }">
          <Spark :picture="{ family: 'level', ...line.picture }" :width="150" :height="44" />
          <div class="said">
            <b>{{ line.name }}</b>
            <span class="soft">
              {{ +line.length.toFixed(3) }} beats, {{ line.shape || counted(line.points, 'point') }}, {{ line.made_for }}</span
            >
            <p>{{ line.says }}</p>
          </div>
          <span class="tags soft">{{ line.tags.join(', ') }}</span>
          <span class="does">
            <button class="link" :aria-expanded="opened === line.id" @click="open(line)">change</button>
            <button class="link" @click="duplicate(line)">duplicate</button>
            <button class="link" @click="put(line, true)">delete</button>
          </span>
          <form v-if="opened === line.id" class="edit" @submit.prevent="change(line)">
            <label>name <input v-model="edited.name" class="words-field" maxlength="300" /></label>
            <label>what it is for <input v-model="edited.says" class="words-field long" maxlength="2000" /></label>
            <label>tags <input v-model="edited.tags" class="words-field" /></label>
            <PhraseChart
              v-if="whole && !whole.shape"
              v-model="points"
              :length="whole.length"
              :axis="whole.axis"
              :low="whole.low"
              :high="whole.high"
            />
            <button class="link" type="submit">keep these</button>
          </form>
        </li>
      </ul>
      <section v-if="away.length" aria-label="Deleted phrases">
        <h2>Deleted</h2>
        <p v-for="line in away.slice(0, 200)" :key="line.id">
          {{ line.name }} <button class="link" @click="put(line, false)">bring back</button>
        </p>
      </section>
    </div>
  </main>
</template>

<style scoped>
.book {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  padding: 14px 22px 0;
  background: var(--sheet);
}
h1 {
  font-size: 20px;
}
h2 {
  margin: 18px 0 4px;
  font-size: 14px;
}
.line {
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 10px 0;
}
input[type='search'] {
  width: 260px;
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
}
.scroller {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  border-top: 1px solid var(--ink);
}
li {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr) 200px auto;
  gap: 0 16px;
  align-items: center;
  height: 64px;
  border-bottom: 1px solid var(--quiet-line);
}
li.open {
  height: auto;
  padding: 8px 0;
  background: var(--sand);
}
.said b {
  margin-right: 6px;
}
.said {
  min-width: 0;
}
.said p,
.tags {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.does {
  display: flex;
  gap: 14px;
}
.edit {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  padding: 8px 0 2px 170px;
}
.edit .long {
  width: 40ch;
}
.edit input {
  text-align: left;
}
.none {
  padding: 30px 0;
}
.trouble {
  color: var(--fresh);
  font-weight: 650;
}
.good {
  color: var(--good);
}
</style>
