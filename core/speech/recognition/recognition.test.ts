import { dictionary } from 'cmu-pronouncing-dictionary'
import fc from 'fast-check'
import { beforeAll, describe, expect, test } from 'vitest'
import { seededRandom } from '../../maths/solve/random'
import { phonesOfLine, shownAt, trackOfRecognised } from '../track'
import type { Phone } from '../timing'
import { MARLO_VOICE, SAMPLE_RATE, spoken } from '../voice/speak'
import { confusionOf } from './confusion'
import { RECOGNISED_PHONES, trainModel, type AcousticModel } from './acousticModel'
import { recognise } from './recognise'
import { trainingLinesOf } from './trainingLines'
import { resample } from './resample'

const lookup = (word: string): string | undefined => (Object.hasOwn(dictionary, word) ? dictionary[word] : undefined)
const LINE = 'My brother paints boats, and a few of them even float. Shall we have tea?'

let model: AcousticModel
beforeAll(() => void (model = trainModel(trainingLinesOf(lookup))))

describe('a recording of the stand-in voice', () => {
  test('is recognised by a model that never heard the line', () => {
    const phones = phonesOfLine(LINE, lookup)
    const recognised = recognise(spoken(phones), SAMPLE_RATE, model)
    const { right, silence } = confusionOf(phones, recognised)
    expect(right).toBeGreaterThan(0.8)
    expect(silence).toBeGreaterThan(0.95)
  })

  test('is heard through noise, at another rate and at another loudness', () => {
    const phones = phonesOfLine(LINE, lookup)
    const random = seededRandom(5)
    const noisy = spoken(phones).map((x) => 0.1 * x + 0.0004 * (random() - 0.5))
    const recognised = recognise(resample(noisy, SAMPLE_RATE, 44100), 44100, model)
    const { right, silence } = confusionOf(phones, recognised)
    expect(right).toBeGreaterThan(0.65)
    expect(silence).toBeGreaterThan(0.9)
  })

  test('tells how far it is, and takes the whole time', () => {
    const phones = phonesOfLine(LINE, lookup)
    const samples = spoken(phones, { ...MARLO_VOICE, pitch: 180 })
    const told: number[] = []
    const recognised = recognise(samples, SAMPLE_RATE, model, (done) => told.push(done))
    expect(told.length).toBeGreaterThan(5)
    expect([...told].sort((a, b) => a - b)).toEqual(told)
    expect(recognised.reduce((sum, p) => sum + p.seconds, 0)).toBeCloseTo(samples.length / SAMPLE_RATE, 1)
  })

  test.each([0, 1, 300])('of nothing, %i samples long, is silence', (length) => {
    expect(recognise(new Float32Array(length), SAMPLE_RATE, model).map((p) => p.name)).toEqual([''])
  })
})

const phones: fc.Arbitrary<Phone[]> = fc.array(
  fc.record({
    name: fc.constantFrom(...RECOGNISED_PHONES),
    seconds: fc.double({ min: 0.01, max: 0.3, noNaN: true }),
    word: fc.constant(-1),
  }),
  { minLength: 1, maxLength: 30 },
)

describe('shapes of what was heard', () => {
  test('keep the time of the recording', () => {
    fc.assert(
      fc.property(phones, (recognised) => {
        const length = recognised.reduce((sum, p) => sum + p.seconds, 0)
        expect(trackOfRecognised(recognised).duration).toBeCloseTo(length, 9)
      }),
    )
  })

  test('close the mouth for m, b and p on at least one frame, at 12 and 60 frames a second', () => {
    fc.assert(
      fc.property(phones, fc.constantFrom(12, 60), fc.double({ min: 0, max: 1, noNaN: true }), (between, rate, offset) => {
        // Enough to take from on both sides.
        const recognised = [{ name: 'AA', seconds: 0.3, word: -1 }, ...between, { name: 'AA', seconds: 0.3, word: -1 }]
        const track = trackOfRecognised(recognised)
        const closings = track.cues.filter((cue) => cue.viseme === 'mbp')
        for (const { at } of closings) {
          const end = track.cues.find((cue) => cue.at > at)?.at ?? track.duration
          const frames = Array.from(
            { length: Math.ceil((end - at) * rate) + 2 },
            (_, k) => (Math.ceil(at * rate - offset) + k + offset) / rate,
          )
          const shown = frames.filter((time) => time >= at && time < end).map((time) => shownAt(track, time, 0.1))
          expect(shown.some(({ viseme, way }) => viseme === 'mbp' && way === 1)).toBe(true)
        }
      }),
      { numRuns: 300 },
    )
  })
})

test('another rate keeps a tone and drops what is too high for it', () => {
  const tone = (hertz: number, rate: number): Float32Array =>
    Float32Array.from({ length: rate / 5 }, (_, k) => Math.sin((2 * Math.PI * hertz * k) / rate))
  const kept = resample(tone(1000, 44100), 44100, 16000)
  const wanted = tone(1000, 16000)
  for (let k = 200; k < kept.length - 200; k++) expect(Math.abs(kept[k]! - wanted[k]!)).toBeLessThan(0.01)
  const dropped = resample(tone(12000, 44100), 44100, 16000).subarray(200, -200)
  expect(Math.max(...dropped)).toBeLessThan(0.01)
})
