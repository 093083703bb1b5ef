/**
 * How long sounds last: inherent and least durations, longer under stress and before a pause, shorter in clusters, in the
 * manner of Klatt (1979, "Synthesis by rule of segmental durations in English sentences").
 */
import type { Token } from './words'

/** A sound and how long it lasts. */
export interface Phone {
  /** ARPABET without stress; empty for silence. */
  readonly name: string
  readonly seconds: number
  /** Where its word begins in the line; -1 for silence. */
  readonly word: number
}

/** Inherent and least seconds. */
const DURATIONS: Readonly<Record<string, readonly [number, number]>> = {
  ...spread('AA AO AE AW AY OY', 0.19, 0.09),
  ...spread('EY OW IY UW ER', 0.15, 0.07),
  ...spread('IH EH AH UH', 0.1, 0.05),
  ...spread('M', 0.09, 0.06),
  ...spread('N NG L R W Y', 0.07, 0.04),
  ...spread('P T K', 0.09, 0.05),
  ...spread('B D G', 0.08, 0.05),
  ...spread('CH JH', 0.1, 0.06),
  ...spread('S SH F TH', 0.11, 0.06),
  ...spread('Z ZH V DH', 0.08, 0.04),
  ...spread('HH', 0.06, 0.03),
}

function spread(names: string, inherent: number, least: number): Record<string, readonly [number, number]> {
  return Object.fromEntries(names.split(' ').map((n) => [n, [inherent, least] as const]))
}

/** Whether an ARPABET name is that of a vowel. */
export const isVowel = (phone: string): boolean => /^[AEIOU]/.test(phone)

/** A word's pronunciation as a dictionary writes it (`HH AH0 L OW1`); undefined where it does not know it. */
export type Dictionary = (word: string) => string | undefined

/** Silence before the first and after the last word, seconds. */
export const EDGE = 0.12

/**
 * Sounds of a line with their times.
 *
 * @param rate 1 is an easy conversation, 2 twice as fast
 * @param bySound sounds of a word that the dictionary does not know
 */
export function phonesOf(
  tokens: readonly Token[],
  dictionary: Dictionary,
  bySound: (word: string) => readonly string[],
  rate = 1,
): Phone[] {
  const out: Phone[] = [{ name: '', seconds: EDGE, word: -1 }]
  tokens.forEach((token, at) => {
    if (token.kind === 'pause') return void out.push({ name: '', seconds: token.seconds / rate, word: -1 })
    const next = tokens[at + 1]
    const isLast = !next || next.kind === 'pause'
    out.push(...wordPhones(dictionary(token.text)?.split(' ') ?? bySound(token.text), token.at, isLast, rate))
  })
  out.push({ name: '', seconds: EDGE, word: -1 })
  return out
}

function wordPhones(marked: readonly string[], word: number, isLast: boolean, rate: number): Phone[] {
  const names = marked.map((m) => m.replace(/\d/, ''))
  const lastVowel = names.findLastIndex(isVowel)
  return names.map((name, k) => {
    const [inherent, least] = DURATIONS[name] ?? [0.08, 0.05]
    const stress = /[12]/.test(marked[k]!) || !/\d/.test(marked[k]!) ? 1 : 0.7
    const cluster = !isVowel(name) && ((names[k + 1] && !isVowel(names[k + 1]!)) || (names[k - 1] && !isVowel(names[k - 1]!))) ? 0.75 : 1
    // The last syllable before a pause is drawn out.
    const end = isLast && k >= lastVowel ? 1.3 : 1
    return { name, seconds: ((inherent - least) * stress * cluster + least) * end * (1 / rate), word }
  })
}
