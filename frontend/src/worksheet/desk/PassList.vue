<script setup lang="ts">
// The passes ridden so far: what each rode, how far its last value goes, and away with it or once more.
import { computed } from 'vue'
import Chooser from '../../parts/Chooser.vue'
import { useSession } from '../../state/session'
import { counted } from '../../lib/words'
import { useRiding } from '../../state/desk/riding'
import { type First, type Pass, type Spread } from '../../state/desk/pass'

const session = useSession()
const riding = useRiding()
const shaped = computed(() => riding.shaped)
const last = computed(() => riding.passes[riding.passes.length - 1])
const trims = computed(() => {
  const hands = riding.live?.hands
  return hands?.size ? [...hands.keys()].some(riding.trims) : last.value?.controls.some((c) => c.trim)
})

const SPREADS: { value: Spread; label: string }[] = [
  { value: 'no', label: 'where it arrived' },
  { value: 'to the start', label: 'back to the start' },
  { value: 'to the end', label: 'on to the end' },
  { value: 'everywhere', label: 'over the whole pass' },
]
const FIRSTS: { value: First; label: string }[] = [
  { value: 'the touch', label: 'from the touch' },
  { value: "the pass's start", label: 'from the pass’s start' },
  { value: "the region's start", label: 'from the region’s start' },
]
function ridden(pass: Pass): string {
  const names = pass.controls.map((c) => session.parameterName(c.parameter))
  return names.length > 1 ? counted(names.length, 'control') : (names[0] ?? '')
}
</script>

<template>
  <div class="passes">
    <p v-if="riding.offered" class="offered" role="status">
      {{ counted(riding.offered.length, 'pass', 'passes') }} from before, not saved:
      <button class="link" type="button" @click="riding.takeUp()">take up again</button>
      <button class="link soft" type="button" @click="riding.turnDown()">throw away</button>
    </p>
    <ol v-if="riding.passes.length" aria-label="Passes">
      <li v-for="(pass, n) in riding.passes" :key="n">
        <span class="name">{{ n + 1 }} {{ ridden(pass) }}</span>
        <span class="soft number">{{ session.position(pass.start) }}–{{ session.position(pass.end) }}</span>
        <button class="link soft" type="button" :aria-label="`Throw pass ${n + 1} away`" @click="riding.throwAway(n)">
          away
        </button>
      </li>
    </ol>
    <p v-else-if="!riding.offered" class="soft">
      Press play and take hold of a control: what your hand does is drawn, and kept when you say so.
    </p>
    <template v-if="shaped">
      <div class="row">
        <span class="soft">Last {{ trims ? 'change' : 'value' }}</span>
        <Chooser
          label="Last value"
          :model-value="shaped.spread"
          :options="SPREADS"
          upwards
          @update:model-value="(x) => riding.change({ spread: x as Spread })"
        />
      </div>
      <div class="row">
        <span class="soft">First {{ trims ? 'change' : 'value' }}</span>
        <Chooser
          label="First value"
          :model-value="shaped.first_from"
          :options="FIRSTS"
          upwards
          @update:model-value="(x) => riding.change({ first_from: x as First })"
        />
      </div>
      <button v-if="last" class="link" type="button" @click="riding.again()">ride it again</button>
    </template>
  </div>
</template>

<style scoped>
.passes {
  font-size: 12px;
}
ol {
  max-height: 62px;
  overflow: auto;
}
li {
  display: flex;
  gap: 6px;
  white-space: nowrap;
}
.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.row {
  display: grid;
  grid-template-columns: 72px minmax(0, 1fr);
  align-items: center;
  margin-top: 2px;
}
.offered {
  padding: 3px 6px;
  background: var(--fresh-paper);
}
</style>
