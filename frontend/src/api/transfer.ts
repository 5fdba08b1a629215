// Files on their way: up with how far they have come, which fetch does not tell, and down under a name of their own.
import { csrfToken, sentence, type Problem } from './client'

export interface Sent {
  /** 0 where no answer came. */
  status: number
  /** What the answer says; nothing where it cannot be read. */
  answer: unknown
}

const SOON = 800 // ms
/**
 * Send a file; `progress` hears how much of it has gone, 0 to 1. Perhaps only the answer was lost: sent once more it comes in
 * once, as the address names it, or its own bytes do.
 */
export async function upload(address: string, file: File, progress: (part: number) => void): Promise<Sent> {
  const first = await sent(address, file, progress)
  if (first.status) return first
  await new Promise((done) => window.setTimeout(done, SOON))
  return sent(address, file, progress)
}
function sent(address: string, file: File, progress: (part: number) => void): Promise<Sent> {
  const form = new FormData()
  form.append('file', file)
  const call = new XMLHttpRequest()
  call.open('POST', address)
  call.setRequestHeader('X-CSRFToken', csrfToken())
  call.upload.onprogress = (event) => progress(event.lengthComputable ? event.loaded / event.total : 0.5)
  return new Promise((done) => {
    call.onloadend = () => done({ status: call.status, answer: parsed(call.responseText) })
    call.send(form)
  })
}
function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

/**
 * Numbers as the server keeps them, 32-bit floats, whose sides stand beside each other; nothing where they cannot be had. Given
 * bytes are written anew, and the numbers are read where they stand: good until somebody writes there again.
 */
export async function samples(
  address: string,
  into?: Uint8Array<ArrayBuffer>,
): Promise<{ samples: Float32Array<ArrayBuffer>; sides: number } | null> {
  const answer = await fetch(address).catch(() => null)
  if (!answer?.ok || !answer.body) return null
  const sides = Number(answer.headers.get('X-Sides') ?? 2)
  try {
    const samples = into ? await readInto(answer.body, into) : new Float32Array(await answer.arrayBuffer())
    return { samples, sides }
  } catch {
    return null // what broke off on its way
  }
}
async function readInto(body: ReadableStream<Uint8Array>, into: Uint8Array<ArrayBuffer>): Promise<Float32Array<ArrayBuffer>> {
  const reader = body.getReader()
  let length = 0
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    into.set(part.value, length)
    length += part.value.length
  }
  return new Float32Array(into.buffer, into.byteOffset, Math.floor(length / 4))
}

/** Ask for a file that is made of a body, and save it under a name; why it could not be made, or nothing. */
export async function download(address: string, body: unknown, name: string): Promise<string> {
  const headers = { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() }
  const answer = await fetch(address, { method: 'POST', headers, body: JSON.stringify(body) }).catch(() => null)
  if (!answer?.ok) return answer ? sentence((await answer.json()) as Problem) : 'Velmot’s server does not answer'
  const link = document.createElement('a')
  link.href = URL.createObjectURL(await answer.blob())
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
  return ''
}
