<script setup lang="ts">
// Points: the numbers of what is selected, and exact values, places and shapes for picked points.
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { api, asked, type AnyRequest } from '../api/client'
import { positionText } from '../lib/said'
import { usePick } from '../state/pick'
import { useAsking } from '../state/asking'
import { whenRead } from '../state/reading'
import { useSelection } from '../state/selection'
import { usePreview, usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import ChoiceButtons from '../parts/fields/ChoiceButtons.vue'
import NumberField from '../parts/fields/NumberField.vue'
import TypedField from '../parts/fields/TypedField.vue'
import { isolated } from '../lib/words'

type Shape = 'keep' | 'straight' | 'hold' | 'bend'
const session = useSession()
const selection = useSelection()
const pick = usePick()
const text = ref('')
const by = ref(0)
const shape = ref<Shape>('keep')
const bend = ref(2)
const valueField = ref<HTMLInputElement | null>(null)

const request = computed<AnyRequest | null>(() => {
  const picked = selection.pointRows
  if (!picked.length) return null
  if (text.value.trim()) return { verb: 'set values', picked, text: text.value }
  if (by.value) return { verb: 'move points', picked, by: by.value, rise: 0 }
  if (shape.value === 'straight') return { verb: 'shape segments', picked, bend: 0 }
  if (shape.value === 'hold') return { verb: 'shape segments', picked, bend: null }
  if (shape.value === 'bend') return { verb: 'shape segments', picked, bend: bend.value }
  return null
})
const draft = computed<AnyRequest>(() => request.value ?? { verb: 'set values', picked: selection.pointRows, text: '' })
usePreviewOf(request, undefined, draft)

const preview = usePreview()
/** A sign in front and no unit: it changes each point, and is no value by itself. */
const isChange = computed(() => /^\s*[+\-−]\s*[\d.,]+\s*$/.test(text.value))

function reset(): void {
  text.value = ''
  by.value = 0
  shape.value = 'keep'
}
watch(() => session.data?.revision, reset)

const question = computed(() => {
  const picked = selection.pointRows
  const { range, lanes } = selection
  if (!session.data || (!picked.length && !(range && lanes.length))) return null
  const { id, revision } = session.data
  return { id, revision, body: { picked, lanes, start: range?.start ?? 0, end: range?.end ?? 0 } }
})
const { answer: numbers } = useAsking(
  () => question.value,
  ({ id, body }, signal) => asked(api.POST('/api/sessions/{id}/selection', { params: { path: { id } }, body, signal })),
)

const what = computed(() => {
  if (selection.pointCount) {
    const only =
      selection.pointRows.length === 1 ? session.laneName(selection.pointRows[0]!.lane) : `${selection.pointRows.length} lanes`
    return `${selection.pointCount} of ${only}`
  }
  return numbers.value ? 'none, but a range is chosen' : 'none'
})
function pos(beat: number): string {
  return positionText(beat, session.data!.bars)
}
function moveTo(beat: number): void {
  if (numbers.value) by.value = beat - numbers.value.start
}

function focusValue(event: KeyboardEvent): void {
  if (event.key !== 'Enter' || !(event.target as HTMLElement).closest('.plot')) return
  event.preventDefault()
  void nextTick(() => valueField.value?.focus())
}
onMounted(() => window.addEventListener('keydown', focusValue))
onBeforeUnmount(() => window.removeEventListener('keydown', focusValue))

/** What a field that is typed into asks for: once what was typed before it has been read. */
const enter = () => whenRead(() => request.value && session.apply(request.value))
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>Selected</legend>
      <div class="field">
        <span>Points</span><span>{{ what }}</span>
      </div>
      <div class="field" data-field="picked">
        <span>Pick</span>
        <span class="pair">
          <button class="link" type="button" :disabled="!selection.range" @click="pick('range')">all in range</button>
          <button class="link" type="button" @click="pick('same value')">same value</button>
          <button class="link" type="button" @click="pick('previous')">previous</button>
          <button class="link" type="button" @click="pick('next')">next</button>
        </span>
      </div>
      <div v-if="numbers" class="field">
        <span>Span</span>
        <span class="number"
          >{{ pos(numbers.start) }} to {{ pos(numbers.end) }}, {{ +(numbers.end - numbers.start).toFixed(3) }} beats</span
        >
      </div>
      <div v-if="numbers?.lowest" class="field">
        <span>Values</span>
        <span class="number">{{ numbers.lowest }} to {{ numbers.highest }}, mean {{ numbers.mean }}</span>
      </div>
    </fieldset>
    <fieldset :disabled="!selection.pointCount">
      <legend>Change</legend>
      <div class="field" data-field="text">
        <label for="points-value">Value</label>
        <span class="pair">
          <input
            id="points-value"
            ref="valueField"
            v-model="text"
            class="words"
            autocomplete="off"
            placeholder="type it"
            @keydown.enter.prevent="enter"
            @keydown.escape="reset"
          />
        </span>
      </div>
      <p class="means" role="status">
        <template v-if="text.trim() && preview.change?.title">
          <b>{{ isolated(preview.change.title) }}</b>
          <template v-if="isChange"
            >: a change of each.
            <button class="link" type="button" @click="text = `=${text.trim()}`">make it the value itself</button></template
          >
        </template>
        <span v-else class="soft">A value (−6 dB), a change of each (+2, -3), or a factor (*0.5).</span>
      </p>
      <div class="field" data-field="by">
        <span>Starting at</span>
        <TypedField
          v-if="numbers && selection.pointCount"
          label="First point at"
          kind="position"
          :text="pos(numbers.start + by)"
          @read="moveTo"
        />
      </div>
      <div class="field" data-field="bend">
        <span>Shape after each</span>
        <span class="pair">
          <NumberField
            v-if="shape === 'bend'"
            label="Bend number"
            :value="bend"
            :least="-20"
            :most="20"
            :usual="2"
            live
            @read="(n) => (bend = n)"
          />
          <ChoiceButtons
            v-model="shape"
            :choices="[
              { value: 'keep', words: 'as it is' },
              { value: 'straight', words: 'straight' },
              { value: 'hold', words: 'hold' },
              { value: 'bend', words: 'bend' },
            ]"
            asks="Shape after each"
          />
        </span>
      </div>
      <div class="field" data-field="picked">
        <span>Remove</span>
        <button class="link" type="button" @click="session.apply({ verb: 'remove points', picked: selection.pointRows })">
          remove them, neighbours join
        </button>
      </div>
    </fieldset>
  </form>
</template>

<style scoped>
/* Room for two lines, so that nothing below moves while one types. */
.means {
  min-height: 42px;
  padding: 3px 0;
  font-size: 14px;
}
</style>
