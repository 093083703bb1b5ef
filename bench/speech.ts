/** Speech: a line of fifty words, and a recording of a minute, to timed shapes of a mouth, the dictionary at hand. */
import { dictionary } from 'cmu-pronouncing-dictionary'
import { trainModel } from '@marionette/core/speech/recognition/acousticModel'
import { recognise } from '@marionette/core/speech/recognition/recognise'
import { trainingLinesOf } from '@marionette/core/speech/recognition/trainingLines'
import { resample } from '@marionette/core/speech/recognition/resample'
import { phonesOfLine, trackOfRecognised, trackOfLine } from '@marionette/core/speech/track'
import { SAMPLE_RATE, spoken } from '@marionette/core/speech/voice/speak'
import { readWav, writeWav } from '@marionette/formats/sound/wav'
import { FEW_ROUNDS, measure, type Figure } from './measure'

const LINE =
  'Good morning, this is the post office by the estuary, and I have letters, parcels and one very large crate for you. ' +
  'The heron at the counter asks whether you would sign here, while the crab keeps sorting stamps, boxes and blorps ' +
  'into five or six baskets before the tide comes in again.'

const lookup = (word: string): string | undefined => (Object.hasOwn(dictionary, word) ? dictionary[word] : undefined)

export function speechFigure(): Figure {
  const words = LINE.split(' ').length
  return measure('speech-50-words', words, 'a line of words to timed visemes, the dictionary loaded', (round) => {
    trackOfLine(`${LINE} ${round}`, lookup)
  })
}

/** A minute at 48,000 samples a second, from the bytes of the file, the ear calibrated anew each time as in a worker of its own. */
export function recordingFigure(): Figure {
  const said = spoken(phonesOfLine(LINE, lookup))
  const minute = Float32Array.from({ length: 60 * SAMPLE_RATE }, (_, k) => said[k % said.length]!)
  const file = writeWav({ samples: resample(minute, SAMPLE_RATE, RECORDED), rate: RECORDED })
  const note = 'a WAV of one minute, 48,000 samples a second, to timed visemes, the ear calibrated anew'
  const run = (): void => {
    const { samples, rate } = readWav(file, 'minute.wav')
    trackOfRecognised(recognise(samples, rate, trainModel(trainingLinesOf(lookup))))
  }
  return measure('speech-wav-60s', 60, note, run, undefined, FEW_ROUNDS)
}

const RECORDED = 48000
