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

/** Reads a WAV file; several channels become their mean. Throws FormatError. */
export function readWav(bytes: Uint8Array, name: string): Sound {
  if (bytes.length > LARGEST) throw new FormatError(`“${name}” is larger than 200 MB.`)
  const file = open(bytes, name)
  const { sampleRate: rate, audioFormat, byteRate } = file.fmt as Record<'sampleRate' | 'audioFormat' | 'byteRate', number>
  if (rate < 6000 || rate > 384000) throw new FormatError(`“${name}” has ${rate} samples a second, and 6,000 to 384,000 are read.`)
  if (!READ.has(audioFormat)) throw new FormatError(`“${name}” is compressed in a way that is not read; save it as plain WAV.`)
  const tooLong = new FormatError(`“${name}” is longer than ${LONGEST / 60} minutes.`)
  // Before all of it is unpacked.
  if ((file.data as { chunkSize: number }).chunkSize > LONGEST * byteRate) throw tooLong
  if (audioFormat === A_LAW) file.fromALaw()
  else if (audioFormat === MU_LAW) file.fromMuLaw()
  const samples = mono(file)
  if (samples.length === 0) throw new FormatError(`“${name}” holds no sound.`)
  if (samples.length > LONGEST * rate) throw tooLong
  return { samples, rate }
}

function open(bytes: Uint8Array, name: string): InstanceType<typeof WaveFile> {
  try {
    return new WaveFile(bytes)
  } catch {
    throw new FormatError(`“${name}” is no WAV file that can be read.`)
  }
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
