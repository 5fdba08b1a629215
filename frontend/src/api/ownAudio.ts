// Files of one's own sound on their way to the server, with how far they have come.
import type { Problem, Schemas } from './client'
import { upload } from './transfer'

export const SOUNDS = /\.(wav|flac|ogg|mp3)$/i
const LARGEST = 2048 * 1024 * 1024

/** Send a file; what is kept of it, or why it is not. */
export async function keepAudio(file: File, progress: (part: number) => void): Promise<Schemas['AudioOut'] | Problem> {
  const problem = (message: string, accepted: string): Problem => ({
    code: 'audio',
    message,
    place: 'file',
    accepted,
    args: {},
    head: null,
  })
  if (file.size > LARGEST)
    return problem(`“${file.name}” has ${Math.round(file.size / 1024 / 1024)} MB`, 'a file of at most 2,048 MB')
  const { status, answer } = await upload('/api/audio', file, progress)
  if (answer) return answer as Schemas['AudioOut'] | Problem
  return problem(status ? `the server answered ${status}` : 'Velmot’s server does not answer', 'trying again')
}
