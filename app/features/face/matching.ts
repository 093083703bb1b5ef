/** Which drawings of two alternates morph into each other, and what was set by hand of it. */
import type { Match, Puppet, Swap } from '@marionette/core/puppet/schema'
import { morphWay, type Pair, type Piece } from '@marionette/core/alternates/swaps'
import { rigOf } from '../../pictures/posePictures'
import type { Editor } from '../../editor/editor'

export interface Matching {
  readonly pairs: readonly Pair[]
  /** All drawings of the alternate that is come to. */
  readonly to: readonly Piece[]
}

export function matchingOf(editor: Editor, puppet: Puppet, swap: string, from: number, to: number): Matching {
  const rig = rigOf(editor, puppet)
  const { pairs } = morphWay(rig, swap, from, to)
  const own = rig.swaps.find((s) => rig.parts.ids[s.part] === swap)
  const at = own ? own.numbers.indexOf(to) : -1
  return { pairs, to: own?.pieces[at] ?? [] }
}

/** A swap in which `a` of one alternate morphs into `b` of another as told; null lets it be proposed again. */
export function withMatch(swap: Swap, { pairs, to }: Matching, a: string, match: Match | null): Swap {
  const [froms, tos] = [new Set(pairs.map((p) => p.a.part)), new Set(to.map((p) => p.part))]
  const isBetween = (m: Match): boolean => (froms.has(m.a) || tos.has(m.a)) && (m.b === null || froms.has(m.b) || tos.has(m.b))
  const isAbout = (m: Match, part: string): boolean => isBetween(m) && (m.a === part || m.b === part)
  const kept = swap.matches.filter((m) => !isAbout(m, a) && !(match?.b && isAbout(m, match.b)))
  return { ...swap, matches: match ? [...kept, match] : kept }
}
