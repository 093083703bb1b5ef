/**
 * The stand-in for a voice: a formant synthesiser. A glottal pulse train and breath go through resonators in a row, hiss goes
 * through one beside them (after Klatt 1980, "Software for a cascade/parallel formant synthesizer"). It speaks typed lines where no
 * recording is at hand, and calibrates the analysis of recordings, since the sounds that it makes are known.
 */
import { seededRandom } from '../../maths/solve/random'
import type { Phone } from '../timing'
import { ARTICULATION, type Hiss, type Stretch } from './articulation'

/** Samples a second of everything that is spoken and heard. */
export const SAMPLE_RATE = 16000

/** How a synthetic voice sounds. */
export interface Voice {
  /** Pulses a second in the middle of a line. */
  readonly pitch: number
  /** Resonances against those of a long vocal tract. */
  readonly tract: number
  /** From 0, pressed, to 1, breathy. */
  readonly breath: number
  readonly seed: number
}

/** The voice with which demo lines are spoken. */
export const MARLO_VOICE: Voice = { pitch: 128, tract: 1.03, breath: 0.2, seed: 7 }

/** Samples between two settings of the vocal tract: 5 ms. */
const STEP = SAMPLE_RATE / 200

/** What the vocal tract does in one step. */
interface Setting {
  f1: number
  f2: number
  f3: number
  voice: number
  breath: number
  nasal: number
  hiss: number
  centre: number
  width: number
}

/** Samples between -1 and 1 of sounds with times. */
export function spoken(phones: readonly Phone[], voice: Voice = MARLO_VOICE): Float32Array {
  const settings = smoothed(settingsOf(phones))
  const out = new Float32Array(settings.length * STEP)
  const tract = new VocalTract(voice)
  settings.forEach((setting, k) => {
    const pitch = voice.pitch * (1.08 - (0.2 * k) / settings.length + 0.04 * Math.sin(k / 23))
    tract.run(setting, pitch, out.subarray(k * STEP, (k + 1) * STEP))
  })
  return out
}

function settingsOf(phones: readonly Phone[]): Setting[] {
  const stretches = phones.flatMap((phone) =>
    (ARTICULATION[phone.name] ?? ARTICULATION['']!).map((stretch) => ({ stretch, seconds: stretch.share * phone.seconds })),
  )
  const out: Setting[] = []
  let time = 0
  let formants: readonly [number, number, number] = [500, 1500, 2500]
  stretches.forEach(({ stretch, seconds }, k) => {
    const next = stretches.slice(k).find((s) => s.stretch.formants)?.stretch.formants
    formants = stretch.formants ?? (isSilent(stretch) ? formants : (next ?? formants))
    time += seconds
    while (out.length < Math.round(time * 200)) out.push(settingOf(stretch, formants))
  })
  return out
}

const isSilent = (stretch: Stretch): boolean => stretch.voice === 0 && stretch.breath === 0 && !stretch.hiss

const NO_HISS: Hiss = { centre: 4000, width: 3000, level: 0 }

function settingOf(stretch: Stretch, [f1, f2, f3]: readonly [number, number, number]): Setting {
  const hiss = stretch.hiss ?? NO_HISS
  return {
    f1,
    f2,
    f3,
    voice: stretch.voice,
    breath: stretch.breath,
    nasal: stretch.isNasal ? 1 : 0,
    hiss: hiss.level,
    centre: hiss.centre,
    width: hiss.width,
  }
}

/** Steps over which the mouth moves on, and over which levels change. */
const MOVES = 5
const SWELLS = 2

/** Tongue and lips take their time; voice and hiss are faster. */
function smoothed(settings: readonly Setting[]): Setting[] {
  const mean = (k: number, of: keyof Setting, reach: number): number => {
    let sum = 0
    for (let d = -reach; d <= reach; d++) sum += settings[Math.min(settings.length - 1, Math.max(0, k + d))]![of]
    return sum / (2 * reach + 1)
  }
  return settings.map((setting, k) => ({
    ...setting,
    f1: mean(k, 'f1', MOVES),
    f2: mean(k, 'f2', MOVES),
    f3: mean(k, 'f3', MOVES),
    nasal: mean(k, 'nasal', SWELLS),
    voice: mean(k, 'voice', SWELLS),
    breath: mean(k, 'breath', SWELLS),
    hiss: mean(k, 'hiss', 1),
  }))
}

/** Two poles: one resonance of the vocal tract, with a gain of one at 0 Hz or at its centre. */
class Resonator {
  private a = 0
  private b = 0
  private c = 0
  private y1 = 0
  private y2 = 0

  tune(centre: number, width: number, isPeak = false): void {
    const r = Math.exp((-Math.PI * width) / SAMPLE_RATE)
    const angle = (2 * Math.PI * Math.min(centre, 0.48 * SAMPLE_RATE)) / SAMPLE_RATE
    this.c = -r * r
    this.b = 2 * r * Math.cos(angle)
    this.a = isPeak ? (1 - r) * Math.sqrt(1 - 2 * r * Math.cos(2 * angle) + r * r) : 1 - this.b - this.c
  }

  run(x: number): number {
    const y = this.a * x + this.b * this.y1 + this.c * this.y2
    this.y2 = this.y1
    this.y1 = y
    return y
  }
}

/** Two zeros, by which a nose takes a band away. */
class Antiresonator {
  private a = 1
  private b = 0
  private c = 0
  private x1 = 0
  private x2 = 0

  tune(centre: number, width: number): void {
    const r = Math.exp((-Math.PI * width) / SAMPLE_RATE)
    const c = -r * r
    const b = 2 * r * Math.cos((2 * Math.PI * centre) / SAMPLE_RATE)
    this.a = 1 / (1 - b - c)
    this.b = -b * this.a
    this.c = -c * this.a
  }

  run(x: number): number {
    const y = this.a * x + this.b * this.x1 + this.c * this.x2
    this.x2 = this.x1
    this.x1 = x
    return y
  }
}

const LOUDNESS = 0.4
/** Strength of the voice against breath and hiss. */
const PULSE = 4
/** What leaves the lips is the change of what comes to them. */
const RADIATION = 0.96

class VocalTract {
  private readonly random: () => number
  private readonly glottis = new Resonator()
  private readonly formants = [1, 2, 3, 4, 5, 6, 7].map(() => new Resonator())
  private readonly nosePole = new Resonator()
  private readonly noseZero = new Antiresonator()
  private readonly narrow = new Resonator()
  private phase = 1
  private before = 0

  constructor(private readonly voice: Voice) {
    this.random = seededRandom(voice.seed)
    this.glottis.tune(0, 90 + 60 * (1 - voice.breath))
  }

  run(setting: Setting, pitch: number, out: Float32Array): void {
    this.tune(setting)
    for (let k = 0; k < out.length; k++) out[k] = Math.tanh(LOUDNESS * this.sample(setting, pitch))
  }

  private tune({ f1, f2, f3, nasal, centre, width }: Setting): void {
    const { tract } = this.voice
    const damped = 1 + 1.2 * nasal
    const centres = [f1, f2, f3, 3400, 4400, 5500, 6600]
    const widths = [70, 90, 130, 250, 300, 400, 500]
    this.formants.forEach((formant, k) => formant.tune(tract * centres[k]!, damped * widths[k]!))
    // Without a nose, pole and zero lie on each other.
    this.nosePole.tune(270, 100)
    this.noseZero.tune(270 + 180 * nasal, 100)
    this.narrow.tune(centre, width, true)
  }

  private sample({ voice, breath, hiss }: Setting, pitch: number): number {
    this.phase += pitch / SAMPLE_RATE
    let pulse = 0
    if (this.phase >= 1) {
      this.phase -= 1
      // Never quite the same pulse twice.
      pulse = PULSE * (SAMPLE_RATE / pitch) * (1 + 0.04 * (this.random() - 0.5))
    }
    const noise = this.random() + this.random() + this.random() - 1.5
    const open = this.phase < 0.5 ? 1 : 0.4
    const source = voice * this.glottis.run(pulse) + (breath + 0.12 * this.voice.breath * voice) * noise * 6 * open
    let throat = source - RADIATION * this.before
    this.before = source
    for (const formant of this.formants) throat = formant.run(throat)
    return this.noseZero.run(this.nosePole.run(throat)) + 3 * hiss * this.narrow.run(noise)
  }
}
