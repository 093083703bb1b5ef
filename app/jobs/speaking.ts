/** Speech in the worker: typed lines and recordings. The pronouncing dictionary comes when it is first asked for. */
import { trainModel } from '@marionette/core/speech/recognition/acousticModel'
import { recognise } from '@marionette/core/speech/recognition/recognise'
import { trainingLinesOf } from '@marionette/core/speech/recognition/trainingLines'
import type { Dictionary } from '@marionette/core/speech/timing'
import { phonesOfLine, trackOf, trackOfRecognised, type SpeechTrack } from '@marionette/core/speech/track'
import { SAMPLE_RATE, spoken } from '@marionette/core/speech/voice/speak'
import { readWav, writeWav, type Sound } from '@marionette/formats/sound/wav'

export interface SpokenLine {
  readonly track: SpeechTrack
  /** The stand-in voice saying it, as WAV; null where it was not asked for. */
  readonly sound: Uint8Array | null
}

/** Sounds and shapes of a typed line. */
export async function speak(line: string, rate: number, isAloud: boolean): Promise<SpokenLine> {
  const phones = phonesOfLine(line, await loadDictionary(), rate)
  return { track: trackOf(phones), sound: isAloud ? writeWav({ samples: spoken(phones), rate: SAMPLE_RATE }) : null }
}

/** Share of the work after which the ear is calibrated. */
const CALIBRATED = 0.25

/** Sounds and shapes of a recording, a WAV file. Throws FormatError. */
export const hearFile = async (file: File, progress: (done: number) => void): Promise<SpeechTrack> =>
  hearSamples(readWav(new Uint8Array(await file.arrayBuffer()), file.name), progress)

/** Samples as a WAV file. */
export const wavOf = (sound: Sound): Uint8Array => writeWav(sound)

/** Sounds and shapes of what was recorded. */
export async function hearSamples({ samples, rate }: Sound, progress: (done: number) => void): Promise<SpeechTrack> {
  const ear = trainModel(trainingLinesOf(await loadDictionary()))
  progress(CALIBRATED)
  return trackOfRecognised(recognise(samples, rate, ear, (done) => progress(CALIBRATED + (1 - CALIBRATED) * done)))
}

async function loadDictionary(): Promise<Dictionary> {
  const { dictionary } = await import('cmu-pronouncing-dictionary').catch(() => {
    throw new Error('The pronouncing dictionary could not be loaded. Reload the page to try again.')
  })
  return (word) => (Object.hasOwn(dictionary, word) ? dictionary[word] : undefined)
}
