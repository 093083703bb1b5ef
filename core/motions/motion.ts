/**
 * Ready motions: acting by role, not by the names of bones. A motion is written in terms of a body (an arm is raised, an elbow bends, the
 * hips sink), and fitted to the directions, lengths and limits of a puppet.
 */

/** What a beat says, by terms: degrees, shares of the length of a leg, or shares of what a control can do. What is not said is at rest. */
export type Terms = Readonly<Record<string, number>>

export interface Beat {
  /** Seconds from the beginning, at usual speed. */
  readonly at: number
  readonly name: string
  readonly terms: Terms
}

export interface Motion {
  readonly id: string
  readonly name: string
  readonly beats: readonly Beat[]
  /** Seconds; it ends as it begins. */
  readonly length: number
}

export const beat = (at: number, name: string, terms: Terms = {}): Beat => ({ at, name, terms })
export const motion = (id: string, name: string, length: number, ...beats: Beat[]): Motion => ({ id, name, length, beats })

const OTHER: Readonly<Record<string, string>> = { left: 'right', right: 'left', a: 'b', b: 'a' }

/** The other side of a motion: left and right swapped, and what leans or turns goes the other way. */
export function mirroredTerms(terms: Terms): Terms {
  const side = (term: string): string => term.replace(/:(left|right|a|b)\b/, (_, s: string) => `:${OTHER[s]}`)
  const turns = /\.(lean|side)$|^(turn|gaze)\.x$/
  return Object.fromEntries(Object.entries(terms).map(([term, value]) => [side(term), turns.test(term) ? -value : value]))
}
