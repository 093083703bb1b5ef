import { readFileSync } from 'node:fs'
import { dictionary } from 'cmu-pronouncing-dictionary'
import * as loaded from 'wavefile'
import { describe, expect, test } from 'vitest'
import { CLASSES, confusionOf } from '@marionette/core/speech/recognition/confusion'
import { trainModel } from '@marionette/core/speech/recognition/acousticModel'
import { recognise } from '@marionette/core/speech/recognition/recognise'
import { trainingLinesOf } from '@marionette/core/speech/recognition/trainingLines'
import { FormatError } from '../warnings'
import { LONGEST, readWav, writeWav } from './wav'

const { WaveFile } = (loaded as unknown as { default: typeof loaded }).default

const RATE = 16000
const tone = Float32Array.from({ length: RATE / 10 }, (_, k) => 0.5 * Math.sin((2 * Math.PI * 440 * k) / RATE))

/** The tone as a file of another kind. */
function made(change: (file: InstanceType<typeof WaveFile>) => void): Uint8Array {
  const file = new WaveFile(writeWav({ samples: tone, rate: RATE }))
  change(file)
  return file.toBuffer()
}

const worst = (a: Float32Array, b: Float32Array): number => a.reduce((most, x, k) => Math.max(most, Math.abs(x - b[k]!)), 0)

describe('a WAV file', () => {
  test.each([
    ['8 bits', (f) => f.toBitDepth('8'), 0.02],
    ['16 bits', () => {}, 1e-4],
    ['24 bits', (f) => f.toBitDepth('24'), 1e-4],
    ['floats', (f) => f.toBitDepth('32f'), 1e-4],
    ['A-law', (f) => f.toALaw(), 0.03],
    ['µ-law', (f) => f.toMuLaw(), 0.03],
  ] satisfies [string, (file: InstanceType<typeof WaveFile>) => void, number][])('is read with %s', (_, change, within) => {
    const { samples, rate } = readWav(made(change), 'tone.wav')
    expect(rate).toBe(RATE)
    expect(samples.length).toBe(tone.length)
    expect(worst(tone, samples)).toBeLessThan(within)
  })

  test('of two channels is their mean', () => {
    const file = new WaveFile()
    file.fromScratch(2, RATE, '16', [Array.from(tone, (x) => Math.round(32767 * x)), Array.from(tone, () => 0)])
    const { samples } = readWav(file.toBuffer(), 'tone.wav')
    expect(
      worst(
        Float32Array.from(tone, (x) => x / 2),
        samples,
      ),
    ).toBeLessThan(1e-4)
  })

  test('that cannot be read says so in one sentence', () => {
    const whole = writeWav({ samples: tone, rate: RATE })
    for (const bytes of [new Uint8Array(0), new Uint8Array(500).fill(7), whole.subarray(0, 30)])
      expect(() => readWav(bytes, 'broken.wav')).toThrow(new FormatError('“broken.wav” is no WAV file that can be read.'))
    expect(() => readWav(writeWav({ samples: new Float32Array(0), rate: RATE }), 'empty.wav')).toThrow('“empty.wav” holds no sound.')
    const slow = new WaveFile(writeWav({ samples: tone, rate: 8000 }))
    slow.toIMAADPCM()
    expect(() => readWav(slow.toBuffer(), 'packed.wav')).toThrow('“packed.wav” is compressed in a way that is not read')
    // One byte a second.
    const long = writeWav({ samples: new Float32Array(LONGEST), rate: RATE })
    long.set([1, 0, 0, 0], 28)
    expect(() => readWav(long, 'long.wav')).toThrow('“long.wav” is longer than 10 minutes.')
  })

  test('that is cut short gives what it has', () => {
    const whole = writeWav({ samples: tone, rate: RATE })
    expect(readWav(whole.subarray(0, whole.length / 2), 'half.wav').samples.length).toBeGreaterThan(100)
  })
})

test('lines spoken by another program are heard: 60% of frames in the right class of six, and 95% of silence', () => {
  const { samples, rate } = readWav(readFileSync(new URL('./spoken.wav', import.meta.url)), 'spoken.wav')
  const { phones } = JSON.parse(readFileSync(new URL('./spoken.json', import.meta.url), 'utf8')) as { phones: [string, number][] }
  const ear = trainModel(trainingLinesOf((word) => (Object.hasOwn(dictionary, word) ? dictionary[word] : undefined)))
  const truth = phones.map(([name, seconds]) => ({ name, seconds, word: -1 }))
  const { right, silence, counts } = confusionOf(truth, recognise(samples, rate, ear))
  expect(right).toBeGreaterThan(0.6)
  expect(silence).toBeGreaterThan(0.95)
  // Not by saying the same all the time: open, round and closed are told apart.
  for (const viseme of ['rest', 'mbp', 'oo', 'aa'] as const) {
    const row = CLASSES.indexOf(viseme)
    const heard = counts.subarray(row * CLASSES.length, (row + 1) * CLASSES.length)
    expect(heard.indexOf(Math.max(...heard)), viseme).toBe(row)
  }
})
