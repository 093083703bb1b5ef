/** Names taken apart into words, sides and numbers. */
import { ROLES, type Side } from './roles'
import type { Naming } from './records'

/** A side as a name says it; whose side is meant depends on the puppet's convention. */
export type SaidSide = 'left' | 'right' | 'near' | 'far'

const SIDES: Readonly<Record<string, SaidSide>> = {
  ...{ l: 'left', left: 'left', lft: 'left', lt: 'left' },
  ...{ r: 'right', right: 'right', rgt: 'right', rt: 'right', rght: 'right' },
  ...{ near: 'near', nr: 'near', closer: 'near' },
  ...{ far: 'far', distant: 'far' },
}

/** Abbreviations that are no beginning of their word. */
const SHORT: Readonly<Record<string, string>> = {
  ...{ upr: 'upper', uppr: 'upper', lwr: 'lower', lowr: 'lower', frnt: 'front', frt: 'front', bk: 'back', ft: 'foot' },
}

/** Words that say nothing about what a part is. */
const NOISE = new Set(
  'layer group copy part shape path the of a an my new final base art artwork img image picture pic png svg fill line ink colour color object element mesh'.split(
    ' ',
  ),
)

const NUMBERS: Readonly<Record<string, string>> = {
  ...{ one: '1', first: '1', two: '2', second: '2', three: '3', third: '3', four: '4', fourth: '4' },
}

/** A name taken apart. */
export interface NameWords {
  /** In the singular, lower case, without sides and noise; numbers are kept as words. */
  readonly words: readonly string[]
  readonly side: SaidSide | null
}

/** Irregular plurals of the body, and words that only look like plurals. */
const SINGULAR: Readonly<Record<string, string>> = {
  ...{
    feet: 'foot',
    teeth: 'teeth',
    calves: 'calf',
    glasses: 'glasses',
    hips: 'hips',
    iris: 'iris',
    chess: 'chess',
    irises: 'iris',
    eyelashes: 'eyelash',
  },
}

function singular(word: string): string {
  if (SINGULAR[word]) return SINGULAR[word]
  if (word.length > 4 && /(ches|shes|xes|sses)$/.test(word)) return word.slice(0, -2)
  if (word.length > 3 && word.endsWith('s') && !word.endsWith('ss')) return word.slice(0, -1)
  return word
}

/** Takes a name apart: separators, camel case, digits beside letters, plurals, accents, `L_` and `.r` all count. */
export function wordsOf(name: string): NameWords {
  const plain = name.normalize('NFKD').replace(/\p{M}/gu, '')
  const pieces = plain.match(/[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+/g) ?? []
  let side: SaidSide | null = null
  const words: string[] = []
  for (const piece of pieces) {
    const word = piece.toLowerCase()
    const said = SIDES[word]
    if (said && side === null) side = said
    else if (!NOISE.has(word) && !said) words.push(NUMBERS[word] ?? SHORT[word] ?? singular(word))
  }
  if (side === null) side = gluedSide(words)
  return { words: words.map((w) => (/^\d+$/.test(w) ? String(Number(w)) : w)), side }
}

/** A single letter before or behind a name: `N_arm`, `leg.f`, `hand n.`. */
const NEAR_FAR_LETTER = /^([nf])[\s._-]+(?=\S)|[\s._-]+([nf])\.?$|(?<=[a-z\d])\.([nf])\.?$/i

/** A name without its near or far letter, and which one it was; null without. */
function nearFarLetter(name: string): { stem: string; side: 'near' | 'far' } | null {
  const found = NEAR_FAR_LETTER.exec(name)
  if (!found) return null
  const letter = (found[1] ?? found[2] ?? found[3] ?? '').toLowerCase()
  const stem = (name.slice(0, found.index) + name.slice(found.index + found[0].length)).trim()
  return { stem, side: letter === 'n' ? 'near' : 'far' }
}

/**
 * Names with single letters for near and far written out, where some of them come in pairs: `N_arm` beside `F_arm`. By
 * itself an n or an f says nothing.
 */
export function nearFarWritten(names: readonly string[]): ReadonlyMap<string, string> {
  const read = names.map((name) => ({ name, letter: nearFarLetter(name) }))
  const stems = (side: 'near' | 'far'): Set<string> =>
    new Set(read.flatMap(({ letter }) => (letter?.side === side ? [letter.stem.toLowerCase()] : [])))
  const far = stems('far')
  if (![...stems('near')].some((stem) => far.has(stem))) return new Map()
  return new Map(read.flatMap(({ name, letter }) => (letter ? [[name, `${letter.side} ${letter.stem}`] as const] : [])))
}

let known: ReadonlySet<string> | null = null

/** Whether a word of some length stands in the phrases of a role. */
function isKnown(word: string): boolean {
  known ??= new Set(ROLES.flatMap((r) => [...r.words, ...r.also].flatMap((phrase) => phrase.split(' '))))
  return word.length >= 3 && known.has(word)
}

/** A side that is glued to a word without any separator: `leftarm`, `armright`, `rhand`. The word is cut in place. */
function gluedSide(words: string[]): SaidSide | null {
  for (const [i, word] of words.entries()) {
    for (const side of ['left', 'right'] as const) {
      const rest = word.startsWith(side) ? word.slice(side.length) : word.endsWith(side) ? word.slice(0, -side.length) : ''
      // `bright` ends in `right`, `cleft` in `left`.
      if (rest.length < 3) continue
      words[i] = singular(rest)
      return side
    }
    const rest = singular(word.slice(1))
    if (/^[lr]/.test(word) && isKnown(rest) && !isKnown(word)) {
      words[i] = rest
      return word[0] === 'l' ? 'left' : 'right'
    }
  }
  return null
}

/** Which way a turned character looks on screen. Facing the viewer's left it shows its own left side. */
export type Facing = 'left' | 'right'

/** The character's own side that a name means under a convention. */
export function ownSide(said: SaidSide | null, naming: Naming, facing: Facing = 'left'): Side | null {
  if (said === null) return null
  if (said === 'near') return facing
  if (said === 'far') return facing === 'left' ? 'right' : 'left'
  if (naming !== 'viewer-side') return said
  return said === 'left' ? 'right' : 'left'
}

/** The word for one of the character's sides under a convention. */
export function sideWord(side: Side, naming: Naming, facing: Facing = 'left'): SaidSide {
  if (naming === 'character-side') return side
  if (naming === 'viewer-side') return side === 'left' ? 'right' : 'left'
  return side === facing ? 'near' : 'far'
}
