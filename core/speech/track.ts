/**
 * Speech as a mouth shows it: visemes with times, from sounds with times. Sounds that are too short to be seen give way to
 * their neighbours, a mouth that has to close does so long enough to be caught by the slowest frame rate, and shapes are
 * reached when the sound begins, so that the mouth is a little early.
 */
import { VISEME_INFO, VISEMES, type Viseme } from './visemes'
import { soundsByRule } from './letters'
import { phonesOf, type Dictionary, type Phone } from './timing'
import { tokensOf } from './words'

/** When a mouth shape is reached. */
export interface VisemeCue {
  readonly viseme: Viseme
  /** Seconds at which the shape is reached. It stays until the next one is begun. */
  readonly at: number
  /** Where its word begins in the typed line; -1 for silence and for what was heard. */
  readonly word: number
}

/** The mouth shapes of a line in time. */
export interface SpeechTrack {
  /** In order of time, the first at 0. */
  readonly cues: readonly VisemeCue[]
  readonly duration: number
}

const OF_PHONE = new Map(VISEMES.flatMap((viseme) => VISEME_INFO[viseme].phones.map((phone) => [phone, viseme] as const)))

/** The mouth shape of a sound, named in ARPABET; rest where it is not known. */
export const visemeOfPhone = (phone: string): Viseme => OF_PHONE.get(phone) ?? 'rest'

/** Visemes of a diphthong's second half: the mouth glides on. */
const GLIDES: Readonly<Record<string, Viseme>> = { AW: 'w', AY: 'ee', OY: 'ee', EY: 'ee', OW: 'w' }

/** Shapes shorter than this are not seen, seconds. */
const SEEN = 0.055
/** A closed mouth shows on every frame rate from this one on. */
export const SLOWEST_FRAMES = 12
/** Least time for which a mouth stays wholly closed, and that for which it may at most be on its way, seconds. */
const CLOSED = 1 / SLOWEST_FRAMES + 0.002
const OPENING = 0.04
/** Shapes that must be seen, however short: the mouth closes, or the lip meets the teeth. */
const MUST: ReadonlySet<Viseme> = new Set(['mbp', 'fv'])

/** A mouth shape and how long it lasts. Changed in place while a track is built. */
export interface Piece {
  viseme: Viseme
  seconds: number
  word: number
}

/** Visemes for sounds with times. A mouth that has no time to close is given it, and all after it comes later. */
export function trackOf(phones: readonly Phone[]): SpeechTrack {
  const pieces = merged(withoutHidden(merged(phones.flatMap(piecesOf))))
  for (const piece of pieces) if (piece.viseme === 'mbp') piece.seconds = Math.max(piece.seconds, CLOSED + OPENING)
  return cuesOf(pieces)
}

/** The same for sounds that were heard: it keeps their time, and closing takes what it needs from its neighbours. */
export function trackOfRecognised(phones: readonly Phone[]): SpeechTrack {
  const pieces = merged(withoutHidden(merged(phones.flatMap(piecesOf))))
  const isClosed = (k: number): boolean => pieces[k]?.viseme === 'mbp'
  for (let k = 0; k < pieces.length; k++) if (isClosed(k)) takeFrom(pieces, k, CLOSED + OPENING, (at) => (isClosed(at) ? Infinity : 0))
  return cuesOf(merged(pieces.filter((piece) => piece.seconds > 1e-9)))
}

function cuesOf(pieces: readonly Piece[]): SpeechTrack {
  let at = 0
  const cues = pieces.map(({ viseme, seconds, word }): VisemeCue => {
    const cue = { viseme, at, word }
    at += seconds
    return cue
  })
  return { cues, duration: at }
}

/** Shapes of one sound: two where the mouth glides on. */
export function piecesOf({ name, seconds, word }: Phone): Piece[] {
  const viseme = visemeOfPhone(name)
  const glide = GLIDES[name]
  if (!glide) return [{ viseme, seconds, word }]
  return [
    { viseme, seconds: 0.6 * seconds, word },
    { viseme: glide, seconds: 0.4 * seconds, word },
  ]
}

/** Neighbours of one shape become one. */
function merged(pieces: readonly Piece[]): Piece[] {
  const out: Piece[] = []
  for (const piece of pieces) {
    const last = out.at(-1)
    if (last?.viseme === piece.viseme) last.seconds += piece.seconds
    else out.push({ ...piece })
  }
  return out
}

/** What is too short to be seen goes to its neighbours in halves; what must be seen takes from them instead. */
function withoutHidden(pieces: readonly Piece[]): Piece[] {
  const out = pieces.map((p) => ({ ...p }))
  for (let k = 0; k < out.length; k++) {
    const piece = out[k]!
    if (MUST.has(piece.viseme) || piece.viseme === 'rest' || piece.seconds >= SEEN || out.length < 3) continue
    const [before, after] = [out[k - 1], out[k + 1]]
    // Between two closings it stays: without it they would be one.
    if (before && after && before.viseme === after.viseme && MUST.has(before.viseme)) continue
    if (before && after) {
      before.seconds += piece.seconds / 2
      after.seconds += piece.seconds / 2
    } else (before ?? after)!.seconds += piece.seconds
    out.splice(k--, 1)
  }
  for (const [k, piece] of out.entries()) if (MUST.has(piece.viseme)) lengthen(out, k, piece.viseme === 'mbp' ? CLOSED + OPENING : SEEN)
  return out
}

/** Gives a piece a least length, from its neighbours as far as they stay visible. */
const lengthen = (pieces: Piece[], k: number, least: number): void =>
  takeFrom(pieces, k, least, (at) => (MUST.has(pieces[at]!.viseme) ? Infinity : SEEN))

/** Gives a piece a least length, from its neighbours down to what they keep. */
function takeFrom(pieces: readonly Piece[], k: number, least: number, keeps: (at: number) => number): void {
  const piece = pieces[k]!
  for (const at of [k + 1, k - 1]) {
    const neighbour = pieces[at]
    const taken = neighbour ? Math.min(Math.max(0, neighbour.seconds - keeps(at)), Math.max(0, least - piece.seconds)) : 0
    if (!neighbour || taken === 0) continue
    neighbour.seconds -= taken
    piece.seconds += taken
  }
}

/** Sounds of a typed line with their times; closed ones last as long as the mouth will be closed for them. */
export const phonesOfLine = (line: string, dictionary: Dictionary, rate = 1): Phone[] =>
  phonesOf(tokensOf(line), dictionary, soundsByRule, rate).map((phone) =>
    visemeOfPhone(phone.name) === 'mbp' ? { ...phone, seconds: Math.max(phone.seconds, CLOSED + OPENING) } : phone,
  )

/** Speech of a typed line. Words that the dictionary does not know are said by rule. */
export const trackOfLine = (line: string, dictionary: Dictionary, rate = 1): SpeechTrack => trackOf(phonesOfLine(line, dictionary, rate))

/** What a mouth shows at a time: a shape, and that before it while it is on the way from it. */
export interface Shown {
  readonly viseme: Viseme
  readonly before: Viseme | null
  /** From 0 at the shape before to 1. */
  readonly way: number
}

/** The shape at a time, with ways from one to the next of a length at most. */
export function shownAt({ cues, duration }: SpeechTrack, time: number, morph: number): Shown {
  if (cues.length === 0 || time < 0 || time >= duration) return { viseme: 'rest', before: null, way: 1 }
  let k = 0
  while (k + 1 < cues.length && cues[k + 1]!.at <= time) k++
  const cue = cues[k]!
  const next = cues[k + 1]
  if (!next) return { viseme: cue.viseme, before: null, way: 1 }
  const way = wayOn(cue, next, morph)
  if (way <= 0 || time < next.at - way) return { viseme: cue.viseme, before: null, way: 1 }
  return { viseme: next.viseme, before: cue.viseme, way: 1 - (next.at - time) / way }
}

/** Seconds that a mouth takes from one shape to the next: they end where the next begins. */
export function wayOn(cue: VisemeCue, next: VisemeCue, morph: number): number {
  const length = next.at - cue.at
  return Math.min(morph, cue.viseme === 'mbp' ? Math.max(0, length - CLOSED) : 0.6 * length)
}

/** How far a mouth opens (0 to 1), how wide it is (-1 round to 1 wide), and how much of teeth and tongue shows (0 to 1). */
export interface MouthForm {
  readonly open: number
  readonly wide: number
  readonly teeth: number
  readonly tongue: number
}

/** How far each mouth shape opens, widens, and shows teeth and tongue, each 0 to 1. */
export const MOUTH_FORMS: Readonly<Record<Viseme, MouthForm>> = {
  rest: { open: 0, wide: 0, teeth: 0, tongue: 0 },
  mbp: { open: 0, wide: 0, teeth: 0, tongue: 0 },
  fv: { open: 0.14, wide: 0.1, teeth: 1, tongue: 0 },
  th: { open: 0.28, wide: 0.15, teeth: 0.5, tongue: 1 },
  l: { open: 0.36, wide: 0.1, teeth: 0.4, tongue: 0.9 },
  d: { open: 0.24, wide: 0.3, teeth: 0.9, tongue: 0.3 },
  k: { open: 0.4, wide: 0.1, teeth: 0.4, tongue: 0.2 },
  ch: { open: 0.3, wide: -0.4, teeth: 0.9, tongue: 0.1 },
  w: { open: 0.18, wide: -0.9, teeth: 0, tongue: 0 },
  oo: { open: 0.42, wide: -0.75, teeth: 0.1, tongue: 0.1 },
  ee: { open: 0.36, wide: 0.8, teeth: 0.8, tongue: 0.3 },
  aa: { open: 1, wide: 0.15, teeth: 0.5, tongue: 0.4 },
}

/** Seconds that a mouth moved by controls takes from one shape to the next at most. */
export const MOUTH_MORPH = 0.09
