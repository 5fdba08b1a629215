<script setup lang="ts">
// What is found in the session, by kind, track or place: ticked to be mended in one step, gone to, or let be.
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { AnyRequest, FoundOut } from '../../api/client'
import { keyOf, rowsOf, sureness, type Grouping } from '../../lib/findings'
import { counted } from '../../lib/words'
import { useBench } from '../../state/bench'
import { usePreviewOf } from '../../state/preview'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { setUp } from '../../state/setUps'
import { useTidying } from '../../state/tidying'
import ChoiceButtons from '../../parts/fields/ChoiceButtons.vue'
import Spark from '../../parts/Spark.vue'

const ROW = 22
const session = useSession()
const selection = useSelection()
const bench = useBench()
const tidying = useTidying()
const by = setUp<Grouping>('tidy.by', 'kind')
const quiet = setUp('tidy.quiet', false)
const folded = setUp('tidy.folded', new Set<string>())

onMounted(() => (tidying.watched = true))
onBeforeUnmount(() => (tidying.watched = false))

const shown = computed(() => tidying.found.filter((one) => quiet.value || !one.let_be))
const kinds = computed(() => tidying.answer?.kinds ?? [])
const names = computed(() => ({
  kinds: new Map(kinds.value.map((k) => [k.kind, k.called])),
  tracks: new Map((session.data?.tracks ?? []).map((t) => [t.id, t.name])),
}))
const rows = computed(() => rowsOf(shown.value, by.value, names.value, folded.value))
const ofKind = computed(() => new Map(kinds.value.map((k) => [k.kind, k])))
const quietCount = computed(() => tidying.found.filter((one) => one.let_be).length)
const sure = computed(() => shown.value.filter((one) => one.mends && one.sure >= 0.9))
const mendable = computed(() => shown.value.filter((one) => one.mends))

// ── what is on view of a long list ───────────────────────────────────────────────────────────
const list = ref<HTMLElement | null>(null)
const top = ref(0)
const tall = ref(240)
const first = computed(() => Math.max(Math.floor(top.value / ROW) - 4, 0))
const inView = computed(() => rows.value.slice(first.value, first.value + Math.ceil(tall.value / ROW) + 8))
function scrolled(): void {
  top.value = list.value?.scrollTop ?? 0
  tall.value = list.value?.clientHeight ?? tall.value
}
onMounted(scrolled)
watch(
  [inView, () => tidying.current, () => tidying.pictures],
  () => tidying.current && void tidying.draw(inView.value.flatMap((row) => ('one' in row ? [row.one] : []))),
  { immediate: true },
)

// ── what is asked for ────────────────────────────────────────────────────────────────────────
const known = ({ kind, of, at }: FoundOut) => ({ kind, of, at })
const draft = computed<AnyRequest>(() => ({ verb: 'mend', found: [...tidying.ticked.values()].map(known) }))
const request = computed(() => (tidying.ticked.size ? draft.value : null))
usePreviewOf(request, () => (shown.value.length ? 'Tick what to mend.' : 'Nothing is found.'), draft)

// ── what is done with a line ─────────────────────────────────────────────────────────────────
function go(one: FoundOut): void {
  const parameter = one.parameter || session.data?.lanes.find((lane) => lane.track === one.track)?.parameter
  if (!parameter) return
  if (one.lane) selection.lanes = [one.lane]
  bench.goTo(parameter, one.parameter ? { start: one.start, end: one.end } : undefined)
}
const letBe = (some: FoundOut[], again = false) => session.apply({ verb: 'let be', found: some.map(known), kinds: [], again })
const letAllBe = (kind: string, again = false) => session.apply({ verb: 'let be', found: [], kinds: [kind], again })
const allTicked = (some: FoundOut[]) => {
  const able = some.filter((one) => one.mends)
  return able.length > 0 && able.every((one) => tidying.ticked.has(keyOf(one)))
}
function fold(head: string): void {
  const now = new Set(folded.value)
  if (!now.delete(head)) now.add(head)
  folded.value = now
}
</script>

<template>
  <div class="found">
    <div class="tools">
      <span class="by">
        <span class="soft">by</span>
        <ChoiceButtons
          v-model="by"
          asks="How the list is parted"
          :choices="[
            { value: 'kind', words: 'kind' },
            { value: 'track', words: 'track' },
            { value: 'place', words: 'place' },
          ]"
        />
      </span>
      <button class="link soft" type="button" :disabled="!sure.length" @click="tidying.tick(sure, !allTicked(sure))">
        tick what is sure ({{ sure.length }})
      </button>
      <button class="link soft" type="button" :disabled="!mendable.length" @click="tidying.tick(mendable, !allTicked(mendable))">
        {{ allTicked(mendable) ? 'tick none' : 'tick all' }} ({{ mendable.length }})
      </button>
      <ElCheckbox v-if="quietCount || quiet" v-model="quiet" size="small" :label="`also the ${quietCount} let be`" />
    </div>
    <div ref="list" class="list" data-field="found" tabindex="-1" @scroll="scrolled">
      <p v-if="!tidying.answer" class="soft empty">Looking…</p>
      <p v-else-if="!rows.length" class="soft empty">Nothing is found that anyone would stumble over.</p>
      <ul v-else aria-label="Findings" :style="{ height: `${rows.length * ROW}px`, paddingTop: `${first * ROW}px` }">
        <template v-for="row in inView" :key="'one' in row ? keyOf(row.one) : `head ${row.head}`">
          <li v-if="'head' in row" class="head">
            <ElCheckbox
              size="small"
              :model-value="allTicked(row.some)"
              :disabled="!row.some.some((one) => one.mends)"
              :aria-label="`Tick all of ${row.called}`"
              @update:model-value="(on: string | number | boolean) => tidying.tick(row.some, !!on)"
            />
            <button class="plain-button" type="button" :aria-expanded="!folded.has(row.head)" @click="fold(row.head)">
              <b>{{ row.called }}</b> <span class="number soft">{{ row.some.length }}</span>
            </button>
            <span
              v-if="by === 'kind' && (ofKind.get(row.head)?.count ?? 0) + (ofKind.get(row.head)?.quiet ?? 0) > 200"
              class="soft"
            >
              of {{ counted(ofKind.get(row.head)!.count + ofKind.get(row.head)!.quiet, 'finding') }}
            </span>
            <button
              v-if="by === 'kind'"
              class="link soft end"
              type="button"
              @click="letAllBe(row.head, ofKind.get(row.head)?.all_let_be)"
            >
              {{ ofKind.get(row.head)?.all_let_be ? 'list this kind again' : 'let all of this kind be' }}
            </button>
          </li>
          <li v-else class="line" :class="{ quiet: row.one.let_be }">
            <ElCheckbox
              size="small"
              :model-value="tidying.ticked.has(keyOf(row.one))"
              :disabled="!row.one.mends"
              :title="row.one.mends ? undefined : 'Nothing mends this by itself'"
              :aria-label="`Mend: ${row.one.name} ${row.one.words}`"
              @update:model-value="(on: string | number | boolean) => tidying.tick([row.one], !!on)"
            />
            <span class="picture">
              <Spark
                v-if="tidying.pictures.get(keyOf(row.one))?.now"
                class="now"
                :picture="tidying.pictures.get(keyOf(row.one))!.now!"
                :width="92"
                :height="18"
              />
              <Spark
                v-if="tidying.pictures.get(keyOf(row.one))?.mended"
                class="mended"
                :picture="tidying.pictures.get(keyOf(row.one))!.mended!"
                :width="92"
                :height="18"
              />
            </span>
            <button
              class="plain-button words"
              type="button"
              :title="`${row.one.name}, ${row.one.where}: ${row.one.words}`"
              @click="go(row.one)"
            >
              <b v-if="row.one.name">{{ row.one.name }}</b> {{ row.one.words }}
            </button>
            <span class="number soft where">{{ row.one.where }}</span>
            <span class="number size">{{ row.one.size }}</span>
            <span class="soft sure">{{ row.one.lossless ? 'no loss' : sureness(row.one.sure) }}</span>
            <button class="link soft" type="button" @click="letBe([row.one], row.one.let_be)">
              {{ row.one.let_be ? 'list again' : 'let be' }}
            </button>
          </li>
        </template>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.by {
  display: flex;
  align-items: center;
  gap: 6px;
}
.head {
  background: var(--sand);
}
.end {
  margin-left: auto;
}
.line:hover {
  background: var(--hover);
}
.quiet .words {
  color: var(--soft);
}
.picture {
  position: relative;
  flex: none;
  width: 92px;
  height: 18px;
}
.picture > * {
  position: absolute;
  inset: 0;
}
.picture .now {
  color: var(--soft);
}
.picture .mended {
  color: var(--fresh);
}
.words {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  text-align: left;
}
.words:hover {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.where {
  flex: none;
  max-width: 19ch;
  overflow: hidden;
  text-overflow: ellipsis;
}
.size {
  flex: none;
  min-width: 9ch;
  text-align: right;
}
.sure {
  flex: none;
  width: 6ch;
}
</style>
