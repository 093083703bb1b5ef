/** WAV files to samples of one channel: whole numbers of 8 to 32 bits, floats, A-law and µ-law. */
import * as loaded from 'wavefile'
import { FormatError } from '../warnings'

// Bundlers find named exports, Node the module as a whole.
const { WaveFile } = 'WaveFile' in loaded ? loaded : (loaded as unknown as { default: typeof loaded }).default

export interface Sound {
  /** One channel, between -1 and 1. */
  readonly samples: Float32Array
  /** Samples a second. */
  readonly rate: number
}

/** Longest sound that is read, seconds. */
export const LONGEST = 600
const LARGEST = 200 * 1024 * 1024

/** Formats of a `fmt ` chunk: whole numbers, floats, two that the package turns into whole numbers, and one that says it elsewhere. */
const A_LAW = 6
const MU_LAW = 7
const READ: ReadonlySet<number> = new Set([1, 3, A_LAW, MU_LAW, 65534])

/** Most channels that are taken together. */
const MOST_CHANNELS = 64
/** Pieces of a file that are looked through for those that count. */
const MOST_CHUNKS = 10_000

/** Reads a WAV file; several channels become their mean. Throws FormatError. */
export function readWav(bytes: Uint8Array, name: string): Sound {
  if (bytes.length > LARGEST) throw new FormatError(`“${name}” is larger than 200 MB.`)
  const unreadable = new FormatError(`“${name}” is no WAV file that can be read.`)
  const chunks = chunksOf(bytes)
  if (!chunks) throw unreadable
  const { format, rate, channels, perSecond, bits } = headOf(chunks.fmt)
  if (rate < 6000 || rate > 384000) throw new FormatError(`“${name}” has ${rate} samples a second, and 6,000 to 384,000 are read.`)
  if (!READ.has(format)) throw new FormatError(`“${name}” is compressed in a way that is not read; save it as plain WAV.`)
  if (channels < 1 || channels > MOST_CHANNELS)
    throw new FormatError(`“${name}” has ${channels} channels, and 1 to ${MOST_CHANNELS} are read.`)
  if (bits < 8 || bits > 64) throw unreadable
  const tooLong = new FormatError(`“${name}” is longer than ${LONGEST / 60} minutes.`)
  // Before all of it is unpacked.
  if (chunks.data.length > LONGEST * perSecond) throw tooLong
  let samples: Float32Array
  try {
    const file = new WaveFile(plainFile(chunks))
    if (format === A_LAW) file.fromALaw()
    else if (format === MU_LAW) file.fromMuLaw()
    samples = mono(file)
  } catch {
    throw unreadable
  }
  if (samples.length === 0) throw new FormatError(`“${name}” holds no sound.`)
  if (samples.length > LONGEST * rate) throw tooLong
  return { samples, rate }
}

interface Chunks {
  readonly fmt: Uint8Array
  readonly data: Uint8Array
}

/** The description and the samples of a RIFF file; null where there are none. Everything else in it is passed over. */
function chunksOf(bytes: Uint8Array): Chunks | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const tag = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (bytes.length < 12 || tag(0) !== 'RIFF' || tag(8) !== 'WAVE') return null
  let [fmt, data]: [Uint8Array | null, Uint8Array | null] = [null, null]
  for (let at = 12, n = 0; at + 8 <= bytes.length && n < MOST_CHUNKS && !(fmt && data); n++) {
    const size = view.getUint32(at + 4, true)
    const body = bytes.subarray(at + 8, at + 8 + size)
    if (tag(at) === 'fmt ' && body.length >= 16) fmt ??= body
    // A recording that was cut off says more than it has.
    if (tag(at) === 'data') data ??= body
    at += 8 + size + (size & 1)
  }
  return fmt && data ? { fmt, data } : null
}

function headOf(fmt: Uint8Array): { format: number; channels: number; rate: number; perSecond: number; bits: number } {
  const view = new DataView(fmt.buffer, fmt.byteOffset, fmt.byteLength)
  return {
    format: view.getUint16(0, true),
    channels: view.getUint16(2, true),
    rate: view.getUint32(4, true),
    perSecond: view.getUint32(8, true),
    bits: view.getUint16(14, true),
  }
}

/** A file of nothing but the description and whole samples, for the package to read. */
function plainFile({ fmt, data }: Chunks): Uint8Array {
  const { channels, bits } = headOf(fmt)
  const block = channels * Math.ceil(bits / 8)
  const whole = data.length - (data.length % block)
  const size = fmt.length + (fmt.length & 1)
  const out = new Uint8Array(12 + 8 + size + 8 + whole + (whole & 1))
  const view = new DataView(out.buffer)
  const put = (at: number, text: string): void =>
    out.set(
      Uint8Array.from(text, (c) => c.charCodeAt(0)),
      at,
    )
  put(0, 'RIFF')
  view.setUint32(4, out.length - 8, true)
  put(8, 'WAVEfmt ')
  view.setUint32(16, fmt.length, true)
  out.set(fmt, 20)
  put(20 + size, 'data')
  view.setUint32(24 + size, whole, true)
  out.set(data.subarray(0, whole), 28 + size)
  return out
}

function mono(file: InstanceType<typeof WaveFile>): Float32Array {
  // The package gives one array for one channel, and a list of arrays for several.
  const read = file.getSamples(false, Float32Array) as unknown as Float32Array | Float32Array[]
  const channels = read instanceof Float32Array ? [read] : read
  const depth = file.bitDepth
  const [middle, scale] = depth === '8' ? [128, 128] : /^(32f|64)$/.test(depth) ? [0, 1] : [0, 2 ** (Number(depth) - 1)]
  const out = new Float32Array(channels[0]?.length ?? 0)
  for (const channel of channels) {
    for (let k = 0; k < out.length; k++) {
      const x = (channel[k]! - middle) / scale
      // A broken float says nothing.
      out[k]! += Number.isFinite(x) ? Math.min(1, Math.max(-1, x)) / channels.length : 0
    }
  }
  return out
}

/** Writes samples between -1 and 1 as 16-bit WAV of one channel. */
export function writeWav({ samples, rate }: Sound): Uint8Array {
  const file = new WaveFile()
  file.fromScratch(
    1,
    rate,
    '16',
    Int16Array.from(samples, (x) => Math.round(32767 * Math.min(1, Math.max(-1, x)))),
  )
  return file.toBuffer()
}
