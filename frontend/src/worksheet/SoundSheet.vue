<script setup lang="ts">
// Sound: what tracks, or chosen regions of them, sound like: a stand-in with its pitch and its colour, the notes they came
// with, a file of one's own, or as is usual.
import { computed, ref, watch } from 'vue'
import { sentence, type AnyRequest, type Schemas } from '../api/client'
import { useBench } from '../state/bench'
import { useNotices } from '../state/notices'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import Setting from '../parts/fields/Setting.vue'
import SpotField from '../parts/fields/SpotField.vue'
import { setUp } from '../state/setUps'
import Chooser from '../parts/Chooser.vue'
import { useDropping } from '../state/dropping'
import { keepAudio } from '../api/ownAudio'
import NumberField from '../parts/fields/NumberField.vue'

type SetSound = Extract<AnyRequest, { verb: 'set sound' }>
type Kind = NonNullable<SetSound['sound']>['kind']
const KINDS: { value: Kind | 'usual'; label: string }[] = [
  { value: 'usual', label: 'as is usual for its name' },
  ...(['tone', 'bell', 'horn', 'voices', 'murmur', 'birds', 'machine', 'rain', 'noise', 'pulse'] as const).map((value) => ({
    value,
    label: value,
  })),
  { value: 'notes', label: 'the notes it came with' },
  { value: 'file', label: 'a file of your own' },
  { value: 'nothing', label: 'nothing' },
]
const session = useSession()
const selection = useSelection()
const bench = useBench()
const notices = useNotices()
const dropping = useDropping()
const tracks = setUp<string[]>('sound.tracks', [])
const kind = setUp<Kind | 'usual'>('sound.kind', 'usual')
const hz = setUp('sound.hz', 220)
const loud = setUp('sound.loud', 50)
const density = setUp('sound.density', 50)
const brightness = setUp('sound.brightness', 50)
const seed = setUp('sound.seed', 0)
const file = setUp<Schemas['AudioOut'] | null>('sound.file', null)
const offset = setUp('sound.offset', 0)
const at = setUp<number | null>('sound.at', null)
const progress = ref<number | null>(null)

const all = computed(() => (session.data?.tracks ?? []).filter((t) => t.kind !== 'group'))
const options = computed(() => all.value.map((t) => ({ value: t.id, label: t.sound ? `${t.name} (${t.sound})` : t.name })))
const regions = computed(() => selection.regions.map((id) => session.regions.get(id)!).filter(Boolean))
const forRegions = computed(() => regions.value.length > 0)
const chosen = computed(() => [...new Set(selection.lanes.flatMap((id) => session.lanes.get(id)?.track ?? []))])
watch(
  chosen,
  (now) => {
    if (now.length && !tracks.value.length) tracks.value = now.filter((id) => session.tracks.get(id)?.kind !== 'group')
  },
  { immediate: true },
)
// What was dropped on a strip is taken up.
watch(
  () => dropping.dropped,
  (now) => {
    if (!now) return
    kind.value = 'file'
    file.value = now.file
    at.value = now.at
    tracks.value = [now.track]
    offset.value = 0
    dropping.dropped = null
  },
  { immediate: true },
)
const isMade = computed(() => !['usual', 'notes', 'file', 'nothing'].includes(kind.value))

const draft = computed<SetSound>(() => {
  const made = { hz: hz.value, amplitude: loud.value / 100, density: density.value / 100, brightness: brightness.value / 100 }
  const own =
    kind.value === 'file' ? { name: file.value?.name ?? '', digest: file.value?.digest ?? '', offset: offset.value } : {}
  const sound =
    kind.value === 'usual' ? null : { kind: kind.value, ...made, seed: seed.value, name: '', digest: '', offset: 0, ...own }
  const where = forRegions.value
    ? { tracks: [], regions: regions.value.map(({ region }) => region.id) }
    : { tracks: tracks.value, regions: [] }
  return { verb: 'set sound', ...where, sound, at: at.value ?? bench.cursor }
})
const request = computed(() => {
  if (!forRegions.value && !tracks.value.length) return null
  return kind.value === 'file' && !file.value ? null : draft.value
})
usePreviewOf(
  request,
  () => (kind.value === 'file' && !file.value ? 'Choose a file.' : 'Choose tracks, and what they sound like.'),
  draft,
)

async function taken(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const one = input.files?.[0]
  input.value = ''
  if (!one) return
  progress.value = 0
  const answer = await keepAudio(one, (part) => (progress.value = part))
  progress.value = null
  if ('digest' in answer) file.value = answer
  else notices.refuse(sentence(answer))
}
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>Which</legend>
      <div v-if="forRegions" class="field" data-field="regions">
        <span>Regions</span>
        <span class="pair">
          {{ regions.map(({ region, track }) => `${region.name} on ${track.name}`).join(', ') }}
          <button class="link soft" type="button" @click="selection.regions = []">whole tracks</button>
        </span>
      </div>
      <Setting v-else v-model="tracks" of="set sound/tracks" asks="Tracks that sound" :options="options" none="choose tracks" />
      <p class="soft">What they sound like changes nothing that is automated. Stand-ins are made on this machine.</p>
    </fieldset>
    <fieldset>
      <legend>Sounds as</legend>
      <div class="field" data-field="sound">
        <span>Sound</span>
        <Chooser v-model="kind" label="What they sound like" :options="KINDS" />
      </div>
      <template v-if="kind === 'file'">
        <div class="field" data-field="sound">
          <span>File</span>
          <span class="pair">
            <span v-if="file">{{ file.name }}, {{ file.seconds.toFixed(1) }} s</span>
            <progress v-if="progress !== null" :value="progress" max="1" aria-label="How far it has come" />
            <label class="link">
              {{ file ? 'another one' : 'choose a file' }}
              <input class="out-of-sight" type="file" accept=".wav,.flac,.ogg,.mp3" aria-label="Your file" @change="taken" />
            </label>
          </span>
        </div>
        <SpotField
          v-if="!forRegions"
          v-model="at"
          of="set sound/at"
          asks="Sound begins at"
          :usual="bench.cursor"
          none="the cursor"
        />
        <div class="field" data-field="sound">
          <span>From, seconds into it</span>
          <NumberField :value="offset" label="Seconds into the file" :least="0" :most="36000" @read="(n) => (offset = n)" />
        </div>
      </template>
      <template v-if="isMade">
        <div class="field" data-field="sound">
          <span>Pitch, Hz</span>
          <NumberField :value="hz" label="Pitch in Hz" :least="1" :most="20000" @read="(n) => (hz = n)" />
        </div>
        <div class="field" data-field="sound">
          <span>Loud, full, bright, %</span>
          <span class="pair">
            <NumberField :value="loud" label="Loudness in percent" :least="0" :most="100" @read="(n) => (loud = n)" />
            <NumberField :value="density" label="Density in percent" :least="0" :most="100" @read="(n) => (density = n)" />
            <NumberField
              :value="brightness"
              label="Brightness in percent"
              :least="0"
              :most="100"
              @read="(n) => (brightness = n)"
            />
          </span>
        </div>
        <div class="field" data-field="sound">
          <span>Take</span>
          <span class="pair">
            <NumberField :value="seed" label="Take" whole :least="-9999" :most="9999" @read="(n) => (seed = n)" />
            <button class="link soft" type="button" @click="seed++">another take</button>
          </span>
        </div>
      </template>
    </fieldset>
  </form>
</template>
