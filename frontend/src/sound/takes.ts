// Takes: the samples of sounds in pieces of four seconds, asked for as they are needed and kept as long as there is room.
// Buffers that are not needed any more are written anew: played samples would else lie about until somebody tidies up, and
// ten long stems leave a hundred megabytes of them.
import { samples } from '../api/transfer'

export const RATE = 48_000
export const CHUNK = 4
const FRAMES = RATE * CHUNK
const ROOM = 32 * 1024 * 1024 // bytes of samples that are kept
const AT_ONCE = 6

const SIDES = 2

type Wanted = { address: string; done: (buffer: AudioBuffer | null) => void }

export class Takes {
  private readonly kept = new Map<string, AudioBuffer>()
  private readonly coming = new Map<string, Promise<AudioBuffer | null>>()
  private readonly line: Wanted[] = []
  private readonly desks: Uint8Array<ArrayBuffer>[] = [] // where what comes is read
  private readonly spare: AudioBuffer[] = []
  private readonly uses = new Map<AudioBuffer, number>()
  private held = 0
  private running = 0

  constructor(
    private readonly session: number,
    private readonly room = ROOM,
    private readonly frames = FRAMES,
  ) {}

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

  /** A buffer sounds: it is not written anew until it is let go of as often as it was held. */
  hold(buffer: AudioBuffer): void {
    this.uses.set(buffer, (this.uses.get(buffer) ?? 0) + 1)
  }
  letGo(buffer: AudioBuffer): void {
    const left = (this.uses.get(buffer) ?? 0) - 1
    if (left > 0) this.uses.set(buffer, left)
    else this.uses.delete(buffer)
    if (left === 0 && ![...this.kept.values()].includes(buffer)) this.spare.push(buffer)
  }

  private async fetched(address: string): Promise<AudioBuffer | null> {
    const desk = this.desks.pop() ?? new Uint8Array(this.frames * SIDES * 4)
    const found = await samples(address, desk)
    const buffer = found && this.written(found.samples, found.sides)
    this.desks.push(desk)
    if (buffer) this.keep(address, buffer)
    return buffer
  }
  private written(samples: Float32Array, sides: number): AudioBuffer {
    const i = this.spare.findIndex((one) => one.numberOfChannels === sides)
    return filled(i < 0 ? bufferFor(this.frames, sides) : this.spare.splice(i, 1)[0]!, samples)
  }

  private keep(address: string, buffer: AudioBuffer): void {
    this.kept.set(address, buffer)
    this.held += sizeOf(buffer)
    for (const [old, one] of this.kept) {
      if (this.held <= this.room) break
      this.kept.delete(old)
      this.held -= sizeOf(one)
      if (!this.uses.has(one)) this.spare.push(one)
    }
  }
}

const sizeOf = (buffer: AudioBuffer) => buffer.length * buffer.numberOfChannels * 4
const bufferFor = (length: number, sides: number) => new AudioBuffer({ length, numberOfChannels: sides, sampleRate: RATE })

/** A buffer with samples whose sides stand beside each other, and silence after them. */
function filled(buffer: AudioBuffer, samples: Float32Array): AudioBuffer {
  const sides = buffer.numberOfChannels
  const length = samples.length / sides
  for (let side = 0; side < sides; side++) {
    const channel = buffer.getChannelData(side)
    for (let i = 0; i < length; i++) channel[i] = samples[i * sides + side]!
    channel.fill(0, length)
  }
  return buffer
}

/** A hall's impulses, fetched once. */
const impulses = new Map<number, Promise<AudioBuffer | null>>()
export function impulse(i: number): Promise<AudioBuffer | null> {
  if (!impulses.has(i)) {
    const asked = samples(`/api/sound/impulse/${i}`).then(
      (found) => found && filled(bufferFor(found.samples.length / found.sides, found.sides), found.samples),
    )
    impulses.set(i, asked)
  }
  return impulses.get(i)!
}

export const FRAMES_OF_CHUNK = FRAMES
