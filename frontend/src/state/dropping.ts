// A file of sound that is dropped on a strip: the sound of the region it falls on, or of the track, from that beat on.
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { sentence, type Schemas } from '../api/client'
import { useNotices } from './notices'
import { useSelection } from './selection'
import { useSession } from './session'
import { useWorksheet } from './worksheet'
import { keepAudio, SOUNDS } from '../api/ownAudio'

export interface Dropped {
  file: Schemas['AudioOut']
  track: string
  at: number
}

export const useDropping = defineStore('dropping', () => {
  const session = useSession()
  const selection = useSelection()
  const worksheet = useWorksheet()
  const notices = useNotices()
  /** What was dropped, until the sheet has taken it up. */
  const dropped = shallowRef<Dropped | null>(null)
  /** How far a file has come that was dropped. */
  const part = shallowRef<number | null>(null)

  async function drop(file: File, parameter: string, at: number): Promise<void> {
    const track = session.parameters.get(parameter)?.track
    if (!track) return
    if (!SOUNDS.test(file.name)) {
      notices.refuse(`“${file.name}” is no sound. Expected: a WAV, FLAC, OGG or MP3 file`)
      return
    }
    if (track.kind === 'group') {
      notices.refuse(`${track.name} is a group: a fader, through which no sound goes`)
      return
    }
    part.value = 0
    const kept = await keepAudio(file, (so) => (part.value = so))
    part.value = null
    if (!('digest' in kept)) {
      notices.refuse(sentence(kept))
      return
    }
    const region = track.regions.find((r) => !r.container && at >= r.start && at < r.start + r.length)
    selection.regions = region ? [region.id] : []
    dropped.value = { file: kept, track: track.id, at }
    worksheet.verb = 'sound'
  }
  return { dropped, part, drop }
})
