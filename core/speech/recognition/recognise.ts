/**
 * Speech that was recorded, as sounds with times: what each moment looks like, then the likeliest sounds. The model that tells
 * them apart is calibrated by the stand-in voice.
 */
import type { Phone } from '../timing'
import { SAMPLE_RATE } from '../voice/speak'
import { describe } from './describe'
import type { AcousticModel } from './acousticModel'
import { decode } from './decode'
import { resample } from './resample'

/**
 * Sounds of a recording, without stress and without words.
 *
 * @param samples one channel, between -1 and 1
 * @param rate samples a second
 * @param progress told from 0 to 1
 */
export function recognise(samples: Float32Array, rate: number, model: AcousticModel, progress: (done: number) => void = () => {}): Phone[] {
  const resampled = resample(samples, rate, SAMPLE_RATE)
  progress(RESAMPLED)
  const described = describe(resampled, (done) => progress(RESAMPLED + (DESCRIBED - RESAMPLED) * done))
  return decode(model, described, (done) => progress(DESCRIBED + (1 - DESCRIBED) * done))
}

/** Shares of the work that are done after the steps. */
const RESAMPLED = 0.2
const DESCRIBED = 0.6
