// Takes: the samples of sounds in pieces of four seconds, asked for as they are needed and kept as long as there is room.
import { samples } from '../api/transfer'

export const RATE = 48_000
export const CHUNK = 4
const FRAMES = RATE * CHUNK
const ROOM = 40 * 1024 * 1024 // bytes of samples that are kept
const AT_ONCE = 6

type Wanted = { address: string; done: (buffer: AudioBuffer | null) => void }

export class Takes {
  private readonly kept = new Map<string, AudioBuffer>()
  private readonly coming = new Map<string, Promise<AudioBuffer | null>>()
  private readonly line: Wanted[] = []
  private held = 0
  private running = 0

  constructor(private readonly session: number) {}

  /** A piece that is here. */
  ready(key: string, n: number): AudioBuffer | undefined {
    const address = this.address(key, n)
    const found = this.kept.get(address)
    if (found) {
      this.kept.delete(address) // and to the end of the line of those that go
      this.kept.set(address, found)
    }
    return found
  }

  /** A piece, here or on its way; nothing where it cannot be had. */
  async of(key: string, n: number): Promise<AudioBuffer | null> {
    const found = this.ready(key, n)
    if (found) return found
    const address = this.address(key, n)
    const coming = this.coming.get(address)
    if (coming) return coming
    const asked = new Promise<AudioBuffer | null>((done) => this.line.push({ address, done }))
    this.coming.set(address, asked)
    this.work()
    const buffer = await asked
    this.coming.delete(address)
    return buffer
  }

  private address(key: string, n: number): string {
    return `/api/sessions/${this.session}/sound?key=${encodeURIComponent(key)}&n=${n}`
  }

  private work(): void {
    while (this.running < AT_ONCE && this.line.length) {
      const { address, done } = this.line.shift()!
      this.running++
      void this.fetched(address).then((buffer) => {
        this.running--
        done(buffer)
        this.work()
      })
    }
  }

  private async fetched(address: string): Promise<AudioBuffer | null> {
    const found = await samples(address)
    if (!found) return null
    const buffer = bufferOf(found.samples, found.sides)
    this.keep(address, buffer)
    return buffer
  }

  private keep(address: string, buffer: AudioBuffer): void {
    this.kept.set(address, buffer)
    this.held += sizeOf(buffer)
    for (const [old, one] of this.kept) {
      if (this.held <= ROOM) break
      this.kept.delete(old)
      this.held -= sizeOf(one)
    }
  }
}

const sizeOf = (buffer: AudioBuffer) => buffer.length * buffer.numberOfChannels * 4

/** Samples whose sides stand beside each other as a buffer. */
export function bufferOf(samples: Float32Array, sides: number): AudioBuffer {
  const length = samples.length / sides
  const buffer = new AudioBuffer({ length, numberOfChannels: sides, sampleRate: RATE })
  for (let side = 0; side < sides; side++) {
    const channel = buffer.getChannelData(side)
    for (let i = 0; i < length; i++) channel[i] = samples[i * sides + side]!
  }
  return buffer
}

/** A hall's impulses, fetched once. */
const impulses = new Map<number, Promise<AudioBuffer | null>>()
export function impulse(i: number): Promise<AudioBuffer | null> {
  if (!impulses.has(i)) {
    const asked = samples(`/api/sound/impulse/${i}`).then((found) => found && bufferOf(found.samples, found.sides))
    impulses.set(i, asked)
  }
  return impulses.get(i)!
}

export const FRAMES_OF_CHUNK = FRAMES
