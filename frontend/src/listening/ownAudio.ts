// Files of one's own sound on their way to the server, with how far they have come.
import type { Problem, Schemas } from '../api/client'

export const SOUNDS = /\.(wav|flac|ogg|mp3)$/i
const LARGEST = 2048 * 1024 * 1024

/** Send a file; what is kept of it, or why it is not. */
export function keepAudio(file: File, token: string, progress: (part: number) => void): Promise<Schemas['AudioOut'] | Problem> {
  const problem = (message: string, accepted: string): Problem => ({
    code: 'audio',
    message,
    place: 'file',
    accepted,
    head: null,
  })
  if (file.size > LARGEST) {
    const said = `“${file.name}” has ${Math.round(file.size / 1024 / 1024)} MB`
    return Promise.resolve(problem(said, 'a file of at most 2,048 MB'))
  }
  const form = new FormData()
  form.append('file', file)
  const call = new XMLHttpRequest()
  call.open('POST', '/api/audio')
  call.setRequestHeader('X-CSRFToken', token)
  call.upload.onprogress = (event) => progress(event.lengthComputable ? event.loaded / event.total : 0.5)
  return new Promise((done) => {
    call.onloadend = () => {
      try {
        done(JSON.parse(call.responseText) as Schemas['AudioOut'] | Problem)
      } catch {
        done(problem(call.status ? `the server answered ${call.status}` : 'Velmot’s server does not answer', 'trying again'))
      }
    }
    call.send(form)
  })
}
