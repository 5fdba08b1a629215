<script setup lang="ts">
// Thin: which lanes, over which bars, and how: within a bound for each unit, without loss, or steps as slopes; and what stays.
import { computed } from 'vue'
import Setting from '../parts/fields/Setting.vue'
import { setUp } from '../state/setUps'
import type { AnyRequest } from '../api/client'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { counted } from '../lib/words'
import BoundFields from '../parts/fields/BoundFields.vue'
import LanesField from '../parts/fields/LanesField.vue'
import RangeField from '../parts/fields/RangeField.vue'

type Thin = Extract<AnyRequest, { verb: 'thin' }>
const session = useSession()
const selection = useSelection()
const way = setUp<Thin['way']>('thin.way', 'within')
const bounds = setUp<Record<string, number>>('thin.bounds', {})
const protecting = setUp('thin.protecting', true)
const edges = setUp('thin.edges', false)
const holds = setUp<Thin['holds']>('thin.holds', 'stay')
const step = setUp<number | null>('thin.step', null)

const parameters = computed(() =>
  selection.lanes.flatMap((id) => session.parameters.get(session.lanes.get(id)?.parameter ?? '')?.parameter ?? []),
)
const draft = computed<Thin>(() => ({
  verb: 'thin',
  lanes: selection.lanes,
  start: selection.range?.start ?? null,
  end: selection.range?.end ?? null,
  way: way.value,
  within: Object.entries(bounds.value).map(([unit, amount]) => ({ unit, amount })),
  protected: protecting.value ? selection.pointRows : [],
  region_edges: edges.value,
  holds: holds.value,
  step: step.value,
}))
const request = computed(() => (selection.lanes.length ? draft.value : null))
usePreviewOf(request, undefined, draft)

/** Choose every lane of the session. */
function everything(): void {
  selection.lanes = (session.data?.lanes ?? []).map((x) => x.id)
  selection.range = null
}
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>What</legend>
      <LanesField data-field="lanes" label="Lanes to thin" />
      <RangeField data-field="start end" />
      <p><button class="link soft" type="button" @click="everything">every lane of the session</button></p>
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <Setting v-model="way" of="thin/way" bare asks="How to thin" />
      <template v-if="way === 'within'">
        <BoundFields v-model="bounds" :parameters="parameters" label="Nowhere further than" />
        <div v-if="selection.pointCount" class="field" data-field="protected">
          <ElCheckbox v-model="protecting" :label="`${counted(selection.pointCount, 'picked point')} stay`" size="small" />
        </div>
        <Setting v-model="edges" of="thin/region_edges" tick />
        <Setting v-model="holds" of="thin/holds" tick />
      </template>
      <p v-else-if="way === 'without loss'" class="soft">
        Only points go that change nothing: on a line, on one bend, in equal holds.
      </p>
      <template v-else>
        <Setting v-model="step" of="thin/step" asks="How far apart steps are" none="found in each lane">
          <button v-if="step !== null" class="link soft" type="button" @click="step = null">find it</button>
        </Setting>
        <p class="soft">A staircase that came from a controller becomes the slope it was drawn from, within half a step.</p>
      </template>
    </fieldset>
  </form>
</template>
