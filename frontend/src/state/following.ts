// What is followed: how loud the source is in view, asked for while its sheet is open, for the strips that are driven.
import { defineStore } from 'pinia'
import { computed, onBeforeUnmount, ref, shallowRef, watch, type ComputedRef } from 'vue'
import { api, asked, type AnyRequest, type Schemas } from '../api/client'
import { useAsking } from './asking'
import { useBench } from './bench'
import { useSession } from './session'
import { useWaiting } from './waiting'

export type FollowRequest = Extract<AnyRequest, { verb: 'follow' }>

export const useFollowing = defineStore('following', () => {
  const session = useSession()
  const bench = useBench()
  const worked = useWaiting()
  const request = shallowRef<FollowRequest | null>(null)
  const question = computed(() => {
    const now = session.data
    if (!now || !request.value) return null
    const view = { ...bench.view, columns: Math.min(bench.plotWidth, 1600), strips: [], pencil: true }
    return { id: now.id, revision: now.revision, request: request.value, view }
  })
  const { answer } = useAsking(
    () => question.value,
    ({ id, request, view }, signal) =>
      worked.ticketed((ticket) => {
        const call = { params: { path: { id } }, body: { request, view, ticket }, signal }
        return asked(api.POST('/api/sessions/{id}/followed', call))
      }, signal),
    { keep: true },
  )
  const drawn = computed<Schemas['FollowedOut'] | null>(() => (request.value ? answer.value : null))
  const driven = computed(() => new Set((request.value?.targets ?? []).map((t) => t.parameter)))
  /** The threshold as a hand holds it, in dB. */
  const held = ref<number | null>(null)
  let told: ((value: number) => void) | null = null

  /** Keep what a sheet asks for as what is drawn, for as long as it is open. */
  function show(wanted: ComputedRef<AnyRequest | null>): void {
    watch(wanted, (next) => (request.value = next?.verb === 'follow' ? next : null), { immediate: true })
    onBeforeUnmount(() => {
      request.value = null
      told = null
    })
  }
  /** Who is told of a threshold that was dragged. */
  function onThreshold(tell: (value: number) => void): void {
    told = tell
  }
  function setThreshold(value: number): void {
    told?.(Math.round(value * 10) / 10)
  }
  return { drawn, driven, request, held, show, onThreshold, setThreshold }
})
