<script setup lang="ts">
// The sound of the session as a file: the mix, or a file for each track; the range or all of it; with progress and a way to stop.
import { computed, ref } from 'vue'
import { download } from '../api/transfer'
import Chooser from '../parts/Chooser.vue'
import { useListening } from '../state/listening'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useWaiting } from '../state/waiting'

const session = useSession()
const selection = useSelection()
const listening = useListening()
const waiting = useWaiting()
const each = ref<'mix' | 'each'>('mix')
const ending = ref('.wav')
const rate = ref('48000')
const bits = ref('24')
const which = ref<'all' | 'heard'>('all')
const whole = ref(false)
const failed = ref('')
const done = ref('')

const data = computed(() => session.data!)
const span = computed(() => (selection.range && !whole.value ? selection.range : { start: 0, end: data.value.length }))
const said = computed(() => `${session.position(span.value.start)} to ${session.position(span.value.end)}`)
const heard = computed(() => data.value.tracks.filter((t) => t.kind !== 'group' && listening.audible(t.id)).map((t) => t.id))
const bitsOffered = computed(() =>
  [
    { value: '16', label: '16 bits' },
    { value: '24', label: '24 bits' },
    { value: '32f', label: '32 bits, floating' },
  ].filter((x) => ending.value === '.wav' || x.value !== '32f'),
)

async function take(): Promise<void> {
  failed.value = done.value = ''
  const wanted = {
    ...span.value,
    tracks: which.value === 'heard' ? heard.value : null,
    each: each.value === 'each',
    rate: Number(rate.value),
    bits: ending.value === '.flac' && bits.value === '32f' ? '24' : bits.value,
    ending: ending.value,
  }
  const name = `${data.value.name}${wanted.each ? '.zip' : ending.value}`
  const address = `/api/sessions/${data.value.id}/export/sound`
  failed.value = await waiting.ticketed((ticket) => download(address, { ...wanted, ticket }, name))
  if (!failed.value) done.value = `${name} is taken out.`
}
</script>

<template>
  <section aria-label="The sound">
    <h2>The sound</h2>
    <p class="soft">
      Rendered from the stand-ins, notes and files that are heard: {{ said }}.
      <button v-if="selection.range" class="link" type="button" @click="whole = !whole">
        {{ whole ? 'only the range' : 'all of it' }}
      </button>
    </p>
    <p class="line">
      <Chooser
        v-model="each"
        label="Mix or tracks"
        :options="[
          { value: 'mix', label: 'the mix' },
          { value: 'each', label: 'a file for each track' },
        ]"
      />
      <Chooser
        v-if="listening.some"
        v-model="which"
        label="Which tracks"
        :options="[
          { value: 'all', label: 'all tracks' },
          { value: 'heard', label: `those listened to (${heard.length})` },
        ]"
      />
      <Chooser
        v-model="ending"
        label="Format"
        :options="[
          { value: '.wav', label: 'WAV' },
          { value: '.flac', label: 'FLAC' },
        ]"
      />
      <Chooser
        v-model="rate"
        label="Rate"
        :options="['44100', '48000', '88200', '96000'].map((value) => ({ value, label: `${Number(value) / 1000} kHz` }))"
      />
      <Chooser v-model="bits" label="Bits" :options="bitsOffered" />
    </p>
    <p v-if="waiting.part !== null" role="status">
      <progress :value="waiting.part" max="1" aria-label="How far it has come" />
      <span class="number"> {{ Math.round(waiting.part * 100) }} % </span>
      <button class="link" type="button" @click="waiting.stop">stop</button>
    </p>
    <ElButton type="primary" @click="take">Take out the sound</ElButton>
    <p v-if="failed" class="trouble" role="alert">{{ failed }}</p>
    <p v-else-if="done" class="good" role="status">{{ done }}</p>
  </section>
</template>

<style scoped>
h2 {
  font-size: 15px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 6px 0 10px;
}
.good {
  color: var(--good);
}
.trouble {
  color: var(--fresh);
  font-weight: 600;
}
</style>
