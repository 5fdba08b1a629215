// The desk: which controls are on it and how each writes, the hands on them, and the passes ridden so far.
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useControls } from './controls'
import { useGrips } from './grips'
import { useUnsaved } from './unsaved'
import { useDoing } from './live'
import type { Pass, Ride } from './pass'
import { usePasses } from './passes'
import { useStanding } from './standing'

export const useRiding = defineStore('riding', () => {
  /** Whether the desk is on screen. */
  const open = ref(false)
  const back = ref({ beats: 1, text: '1 beat' })
  const bounds = ref<Record<string, number>>({})
  const lands = ref<Ride['lands']>('where it is heard')

  function asRequest(some: Pass[]): Ride {
    return {
      verb: 'ride',
      passes: some.map((pass) => ({
        ...pass,
        controls: pass.controls.map(({ hand: { at, does, value }, ...rest }) => ({ ...rest, hand: { at, does, value } })),
      })),
      return_over: back.value.beats,
      within: Object.entries(bounds.value).map(([unit, amount]) => ({ unit, amount })),
      lands: lands.value,
      set_to_read: false,
    }
  }

  const desk = useControls()
  const doing = useDoing()
  const request = computed<Ride | null>(() => (doing.passes.value.length ? asRequest(doing.passes.value) : null))
  const standing = useStanding(desk, doing, request)
  const hands = useGrips(desk, doing, standing)
  const passes = usePasses(desk, doing, standing, hands, asRequest, () => open.value)
  const kept = useUnsaved(desk, doing, passes)
  passes.whenChanged(kept.save)

  const { columns, known, settings, settingOf, modeOf, trims, set, put, take, fill, inHand, toggleInHand, shows } = desk
  const { room, controls, at, valueOf, standing: standsAt, drives } = standing
  const { beatOf, whenKnown, grab, move, letGo, held } = hands
  const { readied, shaped, change, throwAway, again } = passes
  const { offered, takeUp, turnDown } = kept
  return {
    ...{ columns, known, settings, settingOf, modeOf, trims, set, put, take, fill, inHand, toggleInHand, shows },
    ...{ back, bounds, lands, room, controls, at, valueOf, standing: standsAt, drives },
    ...{ beatOf, whenKnown, grab, move, letGo, held, live: doing.live, passes: doing.passes, request },
    ...{ readied, shaped, change, throwAway, again, offered, takeUp, turnDown, open },
  }
})
