<script setup lang="ts">
// The tray: phrases of the session and of the book, found by typing and dragged onto a strip, where they land with their length.
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { AnyRequest, Schemas } from '../api/client'
import { beatAt, LEFT, snapped } from '../lib/geometry'
import { useBench } from '../state/bench'
import { useBook, type Given } from '../state/book'
import { useHolding } from '../state/holding'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'
import { useOneStop } from '../state/oneStop'
import { placing, unitOf, usualDepth } from '../lib/usualShape'
import Spark from '../parts/Spark.vue'

interface Piece {
  what: string
  name: string
  length: number
  unit: string | null
  picture: Schemas['Outlined']
  places: number
}
const session = useSession()
const bench = useBench()
const book = useBook()
const hold = useHolding()
const selection = useSelection()
const worksheet = useWorksheet()
const router = useRouter()
const words = ref('')
const list = ref<HTMLElement | null>(null)
useOneStop(list, 'button', ['ArrowUp', 'ArrowDown'])
const MOST = 60
onMounted(() => void session.guarded(() => book.fetch()))
// A step may have kept a phrase: it is in the book too.
watch(
  () => session.data?.linked.phrases.length,
  (now, before) => before !== undefined && now !== before && void session.guarded(() => book.fetch()),
)

const pieces = computed<Piece[]>(() => {
  const mine = (session.data?.linked.phrases ?? []).map((p) => ({ ...p, what: `phrase:${p.id}`, unit: unitOf(p) }))
  const known = new Set(mine.map((p) => p.name))
  const kept = book.lines.filter((p) => !known.has(p.name)).map((p) => ({ ...p, what: `book:${p.id}`, unit: null, places: 0 }))
  const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const text = (p: object) => Object.values(p).flat().join(' ').toLowerCase()
  return [...mine, ...kept].filter((p) => wanted.every((word) => text(p).includes(word)))
})

function choose(piece: Piece): void {
  worksheet.what = piece.what
  worksheet.placing = 'place'
  worksheet.verb = 'place'
}

/** The strip under the pointer, and the beat there. */
function under(event: PointerEvent): { parameter: string; beat: number } | null {
  const strip = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-strip]')
  const plot = strip?.querySelector<HTMLElement>('.plot')
  if (!strip || !plot || !session.data) return null
  const x = Math.max(event.clientX - plot.getBoundingClientRect().left, LEFT)
  const beat = beatAt(x, bench.view, bench.plotWidth)
  const grid = event.altKey ? 'off' : bench.grid
  return { parameter: strip.dataset['strip']!, beat: snapped(beat, grid, session.data.bars, session.data.length) }
}
function wanted(piece: Piece, given: Given | null, at: { parameter: string; beat: number }): AnyRequest {
  const parameter = session.parameters.get(at.parameter)!.parameter
  return placing({
    targets: [{ parameter: at.parameter, home: 'track', low: null, high: null }],
    start: at.beat,
    phrase: given ? null : piece.what.slice('phrase:'.length),
    given,
    ...usualDepth(parameter, given ? unitOf(given) : piece.unit),
  })
}
function press(event: PointerEvent, piece: Piece): void {
  let given: Given | null = null
  if (piece.what.startsWith('book:'))
    void session.guarded(async () => {
      given = await book.open(Number(piece.what.slice('book:'.length)))
    })
  worksheet.placing = 'change'
  worksheet.verb = 'place'
  const ready = () => given !== null || piece.what.startsWith('phrase:')
  let before = new Set<string>()
  hold(event, {
    from: 4,
    move: (next) => {
      const at = ready() ? under(next) : null
      return at ? wanted(piece, given, at) : null
    },
    click: () => choose(piece),
    end: () => (before = new Set(session.placements.keys())),
    done: () => (selection.places = [...session.placements.keys()].filter((id) => !before.has(id))),
  })
}
</script>

<template>
  <section class="tray" aria-label="Phrases">
    <header>
      <input v-model="words" type="search" placeholder="Find a phrase" aria-label="Find a phrase in the tray" />
      <button class="link soft" @click="router.push({ name: 'book' })">book</button>
    </header>
    <ul ref="list">
      <li v-for="piece in pieces.slice(0, MOST)" :key="piece.what">
        <button
          class="plain-button"
          :title="`Drag ${piece.name} onto a strip, or choose it to place`"
          @pointerdown="press($event, piece)"
          @keydown.enter.prevent="choose(piece)"
        >
          <Spark :picture="{ family: 'level', ...piece.picture }" :width="64" :height="18" />
          <span class="name">{{ piece.name }}</span>
          <span class="soft number">{{ piece.places || '' }}</span>
        </button>
      </li>
      <li v-if="!pieces.length" class="soft none">No phrase has these words.</li>
      <li v-if="pieces.length > MOST" class="soft none">and {{ pieces.length - MOST }} more: type to find them</li>
    </ul>
  </section>
</template>

<style scoped>
.tray {
  flex: none;
  display: flex;
  flex-direction: column;
  height: 136px;
  border-top: 1px solid var(--line);
}
header {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 5px 12px 3px;
}
input {
  flex: 1;
  min-width: 0;
  height: 22px;
  padding: 0 6px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
}
ul {
  flex: 1;
  overflow-y: auto;
  scrollbar-width: thin;
}
.plain-button {
  display: flex;
  gap: 8px;
  align-items: center;
  width: 100%;
  height: 24px;
  padding: 0 12px;
  touch-action: none;
}
.plain-button:hover {
  background: var(--hover);
}
.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.none {
  padding: 4px 12px;
}
</style>
