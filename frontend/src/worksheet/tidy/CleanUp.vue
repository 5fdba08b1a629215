<script setup lang="ts">
// Clean up: everything that is there for nothing, over the whole session; thinned too, where that is wished.
import { computed } from 'vue'
import type { AnyRequest } from '../../api/client'
import { usePreviewOf } from '../../state/preview'
import { useSession } from '../../state/session'
import { setUp } from '../../state/setUps'
import BoundFields from '../../parts/fields/BoundFields.vue'
import { usualBounds } from '../../lib/bounds'

const session = useSession()
const thinning = setUp('tidy.thinning', false)
const bounds = setUp<Record<string, number>>('tidy.bounds', {})
const gliding = computed(() =>
  (session.data?.lanes ?? []).flatMap((lane) => {
    const parameter = session.parameters.get(lane.parameter)?.parameter
    return parameter?.kind === 'continuous' ? [parameter] : []
  }),
)
const within = computed(() =>
  Object.entries({ ...usualBounds(gliding.value), ...bounds.value }).map(([unit, amount]) => ({ unit, amount })),
)
const request = computed<AnyRequest>(() => ({ verb: 'clean up', within: thinning.value ? within.value : [] }))
usePreviewOf(request, undefined, request)
</script>

<template>
  <div class="form">
    <fieldset>
      <p>
        Takes out lanes that stay at their resting value, makes a resting value of lanes that never move, and removes points that
        change nothing: over the whole session, and nothing is heard differently.
      </p>
      <div class="field" data-field="within">
        <ElCheckbox v-model="thinning" label="also thin, each unit within a bound" size="small" />
      </div>
      <BoundFields v-if="thinning" v-model="bounds" :parameters="gliding" label="Nowhere further than" />
    </fieldset>
  </div>
</template>
