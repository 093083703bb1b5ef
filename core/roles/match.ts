/**
 * Names to roles, generously and graded.
 *
 * A name is taken apart into words; each role has phrases that mean it. A phrase fits if each of its words is in the
 * name, exactly, abbreviated or mistyped; what the name says beyond it costs certainty. A layer that says too little
 * borrows words and sides from the groups that it is in.
 */
import { roleKey, ROLES, type RoleSpec, type Side } from './roles'
import { nearFarWritten, ownSide, wordsOf, type Facing, type NameWords } from './words'
import type { Naming } from './records'
import { nth, sure } from '../kernel/sure'

/** A name with what else tells of its meaning. */
export interface Named {
  readonly id: string
  readonly name: string
  /** Names of the groups that it is in, the outermost first. */
  readonly within: readonly string[]
  /** Where its middle lies across the canvas, 0 to 1; null where that is not known. */
  readonly x: number | null
}

/** How sure a match is: sure at 0.9, likely at 0.7, a guess below. */
export type Grade = 'sure' | 'likely' | 'guess'

/** Which role a name means, and how sure that is. */
export interface RoleMatch {
  readonly id: string
  readonly role: string
  readonly side: Side | null
  /** 0 to 1 */
  readonly certainty: number
  readonly grade: Grade
  /** Why it is less than sure, in words; empty where it is. */
  readonly doubt: string
}

/** A certainty from 0 to 1 in words. */
export const gradeOf = (certainty: number): Grade => (certainty >= 0.9 ? 'sure' : certainty >= 0.7 ? 'likely' : 'guess')

/** Below this a name is taken to mean something else. */
const LEAST = 0.5
const BORROWED = 0.9
const SIDE_BORROWED = 0.98
const SIDE_BY_PLACE = 0.8
const SIDE_NEAR = 0.9
const LOOSE = 0.8
const EXTRA_WORD = 0.1
const EXTRA_NUMBER = 0.04

interface Candidate {
  readonly spec: RoleSpec
  readonly certainty: number
  readonly doubt: string
}

interface Phrase {
  readonly spec: RoleSpec
  readonly words: readonly string[]
  readonly worth: number
}

const PHRASES: readonly Phrase[] = ROLES.flatMap((spec) => [
  ...spec.words.map((p) => ({ spec, words: wordsOf(p).words, worth: 1 })),
  ...spec.also.map((p) => ({ spec, words: wordsOf(p).words, worth: LOOSE })),
])

/**
 * What words mean; null where they mean no role. They may come from several names.
 *
 * @param known ids of the roles that count; all without it
 */
export function matchWords(words: readonly string[], known: ReadonlySet<string> = ALL_ROLES): Candidate | null {
  const kept = meanings.get(known) ?? new Map<string, Candidate | null>()
  meanings.set(known, kept)
  const key = words.join(' ')
  let meaning = kept.get(key)
  if (meaning === undefined) {
    meaning = findMeaning(words, known)
    kept.set(key, meaning)
  }
  return meaning
}

const ALL_ROLES: ReadonlySet<string> = new Set(ROLES.map((r) => r.id))

/** What words were found to mean, for each set of roles: artwork repeats its words, and is looked at again and again. */
const meanings = new WeakMap<ReadonlySet<string>, Map<string, Candidate | null>>()

function findMeaning(words: readonly string[], known: ReadonlySet<string>): Candidate | null {
  let best: Candidate | null = null
  for (const { spec, words: phrase, worth } of PHRASES) {
    if (!known.has(spec.id)) continue
    const fit = fitPhrase(phrase, words)
    if (!fit) continue
    const certainty = worth * fit.certainty
    // Of two phrases that fit equally well the longer one says more.
    if (certainty >= LEAST && (!best || certainty > best.certainty + 1e-9))
      best = { spec, certainty, doubt: worth < 1 ? 'this word is used loosely' : fit.doubt }
  }
  return best
}

/** How well a phrase's words are found among those of a name; null where one is missing. */
function fitPhrase(phrase: readonly string[], words: readonly string[]): { certainty: number; doubt: string } | null {
  const free = [...words]
  let certainty = 1
  let doubt = ''
  const joined = phrase.join('')
  const glued = phrase.length > 1 ? free.indexOf(joined) : -1
  if (glued >= 0) free.splice(glued, 1)
  else
    for (const word of phrase) {
      let at = -1
      let likeness = 0
      free.forEach((w, i) => {
        const l = likenessOf(w, word)
        if (l > likeness) [at, likeness] = [i, l]
      })
      if (at < 0) return null
      if (likeness < 1) doubt = `"${free[at]}" was read as "${word}"`
      certainty *= likeness
      free.splice(at, 1)
    }
  for (const extra of free) certainty -= /^\d+$|^[a-z]$/.test(extra) ? EXTRA_NUMBER : EXTRA_WORD
  const unread = free.find((w) => !/^\d+$|^[a-z]$/.test(w))
  return { certainty, doubt: doubt || (unread ? `"${unread}" was not understood` : '') }
}

/** 1 for equal words, less for abbreviations and slips, 0 for others. */
function likenessOf(said: string, meant: string): number {
  if (said === meant) return 1
  if (/\d/.test(said) || /\d/.test(meant) || said.length < 2) return 0
  if (said.length >= 3 && meant.startsWith(said)) return 0.85
  if (said.length >= 2 && said.length < meant.length && isSkeleton(said, meant)) return 0.75
  // People rarely mistype the beginning of a word; other words differ there: sash and lash.
  if (said[0] !== meant[0]) return 0
  const slips = distance(said, meant)
  if (slips === 1 && meant.length >= 4) return 0.85
  return slips === 2 && meant.length >= 7 ? 0.75 : 0
}

/** Whether an abbreviation keeps the first letter and then consonants in order: `hnd`, `shldr`. */
function isSkeleton(said: string, meant: string): boolean {
  if (said[0] !== meant[0] || /[aeiou]/.test(said.slice(1))) return false
  const consonants = nth(meant, 0) + meant.slice(1).replace(/[aeiou]/g, '')
  return said === consonants
}

/** Edits from one word to another, swapped neighbours counting once (Damerau 1964, optimal string alignment). */
function distance(a: string, b: string): number {
  if (Math.abs(a.length - b.length) > 2) return 3
  const rows: number[][] = Array.from({ length: a.length + 1 }, (_, i) => [i])
  for (let j = 0; j <= b.length; j++) nth(rows, 0)[j] = j
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1
      let d = Math.min(nth(nth(rows, i - 1), j) + 1, nth(nth(rows, i), j - 1) + 1, nth(nth(rows, i - 1), j - 1) + same)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) d = Math.min(d, nth(nth(rows, i - 2), j - 2) + 1)
      nth(rows, i)[j] = d
    }
  return nth(nth(rows, a.length), b.length)
}

interface Found extends Candidate {
  readonly item: Named
  readonly side: Side | null
}

/** What is known of the drawing before names are read. */
export interface MatchOptions {
  readonly naming: Naming
  readonly facing?: Facing
  /** Ids of the roles that count, e.g. those that a template knows; all without it. */
  readonly known?: ReadonlySet<string>
}

/** Matches names to roles. Things that mean no role are left out. */
export function matchRoles(items: readonly Named[], options: MatchOptions): RoleMatch[] {
  const { naming } = options
  const found = written(items).flatMap((item) => {
    if (isBeside(item)) return []
    const one = matchOne(item, options)
    return one ? [one] : []
  })
  return withPlaces(found, naming === 'near-far' ? (options.facing ?? 'left') : null).map(({ item, spec, side, certainty, doubt }) => ({
    id: item.id,
    role: spec.id,
    side,
    certainty: Math.round(certainty * 100) / 100,
    grade: gradeOf(certainty),
    doubt,
  }))
}

/** How far beside the canvas, in its widths, something lies that is no part of the creature: notes, a palette, scenery. */
const BESIDE = 0.02

const isBeside = ({ name, x }: Named): boolean => (x !== null && (x < -BESIDE || x > 1 + BESIDE)) || meansStill(name)

/** `Arm up` is a raised arm, but beside a forearm it is the upper one. */
const ARM_UP = /\barm[\s._-]*up\b/i

/** Names as they are meant among the others: what one name cannot tell by itself. */
export function written(items: readonly Named[]): Named[] {
  const nearFar = nearFarWritten(items.flatMap((i) => [i.name, ...i.within]))
  const plain = (name: string): string => (nearFar.get(name) ?? name).replace(/_/g, ' ')
  const hasForearm = items.some((i) => matchWords(wordsOf(i.name).words)?.spec.id === 'forearm')
  return items.map((item) => {
    const name =
      hasForearm && ARM_UP.test(plain(item.name)) ? plain(item.name).replace(ARM_UP, 'upper arm') : (nearFar.get(item.name) ?? item.name)
    return { ...item, name, within: item.within.map((n) => nearFar.get(n) ?? n) }
  })
}

function matchOne(item: Named, { naming, facing = 'left', known }: MatchOptions): Found | null {
  const own = wordsOf(item.name)
  const above = item.within.map(wordsOf)
  let best = matchWords(own.words, known)
  for (let k = above.length - 1; k >= 0 && k >= above.length - 2; k--) {
    const borrowed = matchWords([...own.words, ...nth(above, k).words], known)
    const certainty = (borrowed?.certainty ?? 0) * BORROWED
    // Borrowed words must add to what the name says; else every layer of a group would be the group itself.
    if (
      !borrowed ||
      own.words.length === 0 ||
      certainty <= (best?.certainty ?? 0) ||
      isSame(borrowed, matchWords(nth(above, k).words, known))
    )
      continue
    best = { spec: borrowed.spec, certainty, doubt: `understood by its group "${item.within[k]}"` }
  }
  // What surely means something else is not taken for the next best.
  const elsewhere = known ? matchWords(own.words) : null
  if (!best || (elsewhere && elsewhere.certainty > best.certainty + 1e-9)) return null
  const { said, borrowed } = sideOf(own, above)
  if (!best.spec.sided) return { ...best, item, side: null }
  return { ...best, certainty: best.certainty * (borrowed ? SIDE_BORROWED : 1), item, side: ownSide(said, naming, facing) }
}

const isSame = (a: Candidate, b: Candidate | null): boolean => a.spec === b?.spec

function sideOf(own: NameWords, above: readonly NameWords[]): { said: NameWords['side']; borrowed: boolean } {
  if (own.side) return { said: own.side, borrowed: false }
  const said = above.findLast((w) => w.side)?.side ?? null
  return { said, borrowed: said !== null }
}

/**
 * Gives pairs without any side theirs by where they lie: on a character seen from the front, its left is on the
 * viewer's right. Of a turned one a single eye or ear is the near one; `near` tells which side that is.
 */
function withPlaces(found: readonly Found[], near: Side | null): Found[] {
  return found.map((match) => {
    if (!match.spec.sided || match.side) return match
    const { x } = match.item
    const others = found.filter((f) => f !== match && f.spec === match.spec && !f.side && f.item.x !== null)
    const other = others.length === 1 ? sure(nth(others, 0).item.x) : null
    if (near && others.length === 0 && !found.some((f) => f.spec === match.spec && f.side === near))
      return { ...match, side: near, certainty: match.certainty * SIDE_NEAR, doubt: 'its name says no side; the near one was meant' }
    if (x === null || near || other === null || Math.abs(x - other) < 0.02)
      return { ...match, certainty: match.certainty * SIDE_BY_PLACE, doubt: 'its name says no side' }
    return {
      ...match,
      side: x > other ? 'left' : 'right',
      certainty: match.certainty * SIDE_BY_PLACE,
      doubt: 'its side was told by where it lies',
    }
  })
}

/** The role of a match as it is kept with a part. */
export const keyOf = (match: Pick<RoleMatch, 'role' | 'side'>): string => roleKey(match.role, match.side)

/** Roles that stay where they are, whatever the creature does. */
const STILL = new Set(['background', 'shadow'])

/** Whether a name means something that is not part of the creature. */
export const meansStill = (name: string): boolean => STILL.has(matchWords(wordsOf(name).words)?.spec.id ?? '')
