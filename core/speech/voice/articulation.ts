/**
 * How the stand-in voice says each sound: resonances of the vocal tract, and how much of it is voice, breath and hiss.
 * Resonances of vowels after Peterson and Barney (1952), those of consonants and the hiss after Klatt (1980, "Software for a
 * cascade/parallel formant synthesizer"), levels after Fletcher (1953, "Speech and hearing in communication").
 */

/** Hiss made at a narrow place: its centre and width in hertz, and its level from 0 to 1. */
export interface Hiss {
  readonly centre: number
  readonly width: number
  readonly level: number
}

/** A stretch of a sound in which the mouth holds one place. */
export interface Stretch {
  /** Share of the sound's length. */
  readonly share: number
  /** Centres of the lowest three resonances, hertz; null takes those of the next sound that has any. */
  readonly formants: readonly [number, number, number] | null
  /** Levels from 0 to 1. */
  readonly voice: number
  readonly breath: number
  readonly hiss: Hiss | null
  readonly isNasal: boolean
}

const stretch = (formants: Stretch['formants'], voice: number, more: Partial<Stretch> = {}): Stretch => ({
  share: 1,
  formants,
  voice,
  breath: 0,
  hiss: null,
  isNasal: false,
  ...more,
})

const still = (formants: [number, number, number]): Stretch[] => [stretch(formants, 1)]
const gliding = (from: [number, number, number], to: [number, number, number]): Stretch[] => [
  stretch(from, 1, { share: 0.55 }),
  stretch(to, 0.9, { share: 0.45 }),
]
const nasal = (formants: [number, number, number]): Stretch[] => [stretch(formants, 0.3, { isNasal: true })]
const rubbing = (formants: [number, number, number], voice: number, hiss: Hiss): Stretch[] => [stretch(formants, voice, { hiss })]

/** Closed, then burst, then breath where no voice comes. */
const stopped = (formants: [number, number, number], isVoiced: boolean, burst: Hiss): Stretch[] => [
  stretch(formants, isVoiced ? 0.13 : 0, { share: isVoiced ? 0.7 : 0.55 }),
  stretch(formants, isVoiced ? 0.3 : 0, { share: 0.15, hiss: burst }),
  stretch(null, isVoiced ? 0.7 : 0, { share: isVoiced ? 0.15 : 0.3, breath: isVoiced ? 0.05 : 0.3 }),
]

const LIPS: Hiss = { centre: 900, width: 1800, level: 0.1 }
const TONGUE: Hiss = { centre: 4300, width: 2200, level: 0.2 }
const BACK: Hiss = { centre: 2000, width: 700, level: 0.25 }
const SHARP: Hiss = { centre: 6000, width: 1700, level: 0.14 }
const BROAD: Hiss = { centre: 2900, width: 1300, level: 0.25 }
const FAINT: Hiss = { centre: 3000, width: 7000, level: 0.05 }
const FAINTER: Hiss = { centre: 5200, width: 5000, level: 0.02 }

const fainter = (hiss: Hiss, by: number): Hiss => ({ ...hiss, level: by * hiss.level })

/** Stretches of each ARPABET sound, and of silence under the empty name. */
export const ARTICULATION: Readonly<Record<string, readonly Stretch[]>> = {
  '': [stretch(null, 0)],
  IY: still([280, 2250, 2950]),
  IH: still([400, 1950, 2550]),
  EH: still([550, 1800, 2500]),
  AE: still([680, 1700, 2430]),
  AA: still([730, 1110, 2450]),
  AO: still([580, 860, 2420]),
  UH: still([440, 1030, 2250]),
  UW: still([310, 900, 2240]),
  AH: still([610, 1200, 2450]),
  ER: still([480, 1350, 1690]),
  EY: gliding([480, 1950, 2600], [350, 2150, 2750]),
  OW: gliding([520, 920, 2350], [370, 820, 2300]),
  AY: gliding([700, 1200, 2500], [420, 1950, 2600]),
  AW: gliding([700, 1250, 2450], [430, 900, 2350]),
  OY: gliding([550, 880, 2400], [400, 1900, 2500]),
  M: nasal([480, 1050, 2200]),
  N: nasal([480, 1600, 2600]),
  NG: nasal([480, 2050, 2700]),
  L: [stretch([350, 1050, 2750], 0.45)],
  R: [stretch([350, 1080, 1450], 0.55)],
  W: [stretch([300, 640, 2150], 0.45)],
  Y: [stretch([270, 2150, 3000], 0.45)],
  HH: [stretch(null, 0.05, { breath: 0.2 })],
  F: rubbing([340, 1100, 2080], 0, FAINT),
  V: rubbing([240, 1100, 2080], 0.22, fainter(FAINT, 0.6)),
  TH: rubbing([330, 1350, 2540], 0, FAINTER),
  DH: rubbing([270, 1350, 2540], 0.22, fainter(FAINTER, 0.6)),
  S: rubbing([330, 1500, 2550], 0, SHARP),
  Z: rubbing([250, 1500, 2550], 0.15, fainter(SHARP, 0.6)),
  SH: rubbing([320, 1800, 2700], 0, BROAD),
  ZH: rubbing([260, 1800, 2700], 0.2, fainter(BROAD, 0.6)),
  P: stopped([350, 850, 2150], false, LIPS),
  B: stopped([250, 900, 2150], true, LIPS),
  T: stopped([350, 1700, 2650], false, TONGUE),
  D: stopped([250, 1700, 2650], true, fainter(TONGUE, 0.6)),
  K: stopped([330, 1950, 2550], false, BACK),
  G: stopped([250, 1950, 2550], true, fainter(BACK, 0.7)),
  CH: affricate(0, BROAD),
  JH: affricate(0.25, fainter(BROAD, 0.7)),
}

function affricate(voice: number, hiss: Hiss): Stretch[] {
  return [stretch([320, 1750, 2650], 0.4 * voice, { share: 0.4 }), stretch([320, 1800, 2700], voice, { share: 0.6, hiss })]
}
