/**
 * What follows from an edit, so that no command has to think of it: what named a thing that went is dropped, cleared or names its heir, and
 * capabilities mend what is theirs. Goes on until nothing more follows, as when a target goes with its constraint and a response with the
 * target's channel.
 */
import { replaceAt, valueAt, type Trail } from '../kernel/documentPaths'
import { heirOf, type Gone } from '../kernel/records'
import { CAPABILITIES } from './capabilities'
import { channelOf } from './channels'
import { goneIn, KINDS } from './ids'
import { cutTo, danglingIn, withoutHeir, type Dangling } from './references'
import type { Puppet } from './schema'
import { nth } from '../kernel/sure'

/** Applies a recipe as one more step of the edit and returns what came of it. */
export type Step = (recipe: (draft: Puppet) => void) => Puppet

/** More rounds than any chain of consequences has. */
const MOST_ROUNDS = 50

/** Whether what a reference names was there before the edit: only what went is mended, what never was is refused. */
function wasThere(before: Puppet, { reference: { to }, id }: Dangling, gone: Gone): boolean {
  return to === 'channel' ? channelOf(before, id) !== null : (gone.get(to)?.has(id) ?? false)
}

function heirFor(before: Puppet, after: Puppet, { reference: { to, gone }, id }: Dangling): string | null {
  const kind = typeof gone === 'object' && 'heir' in gone ? KINDS.find((k) => k.kind === to) : undefined
  return kind ? heirOf(kind, before, after, id) : null
}

/** Changes to a draft, by trail; undefined takes out. */
type Fixes = { readonly trail: Trail; readonly value: unknown }[]

function fixOf(before: Puppet, after: Puppet, dangling: Dangling): Fixes {
  const { reference, trail } = dangling
  if (reference.gone === 'repaired') return []
  const heir = heirFor(before, after, dangling)
  if (heir !== null) return [{ trail, value: heir }]
  const gone = withoutHeir(reference.gone)
  if (gone === 'repaired') return []
  if ('clear' in gone) return [{ trail: cutTo(trail, gone.clear), value: null }]
  if ('replace' in gone) return [{ trail: cutTo(trail, gone.replace), value: gone.by }]
  return 'drop' in gone ? [{ trail: cutTo(trail, gone.drop), value: undefined }] : []
}

/** Lists that a drop may have left empty, with what goes then. */
function emptied(dangling: readonly Dangling[]): Fixes {
  return dangling.flatMap(({ reference, trail }) => {
    const gone = withoutHeir(reference.gone)
    return typeof gone === 'object' && 'drop' in gone && gone.empty !== undefined
      ? [{ trail: cutTo(trail, gone.empty), value: cutTo(trail, gone.drop).slice(0, -1) }]
      : []
  })
}

/** Later places first, so that what is taken out of a list moves nothing that is still to be changed; each place once. */
function fromTheEnd(fixes: Fixes): Fixes {
  const seen = new Set<string>()
  const unique = fixes.filter(({ trail }) => !seen.has(trail.join('/')) && seen.add(trail.join('/')))
  const later = (a: Trail, b: Trail): number => {
    for (let k = 0; k < Math.min(a.length, b.length); k++) {
      const [x, y] = [nth(a, k), nth(b, k)]
      if (x !== y) return typeof x === 'number' && typeof y === 'number' ? y - x : x < y ? 1 : -1
    }
    return b.length - a.length
  }
  return unique.sort((a, b) => later(a.trail, b.trail))
}

function mendReferences(before: Puppet, after: Puppet, gone: Gone, step: Step): Puppet {
  const lost = danglingIn(after, before, gone).filter((d) => wasThere(before, d, gone))
  const fixes = fromTheEnd(lost.flatMap((d) => fixOf(before, after, d)))
  if (fixes.length === 0) return after
  return step((draft) => {
    for (const { trail, value } of fixes) replaceAt(draft, trail, value)
    for (const { trail, value } of fromTheEnd(emptied(lost))) {
      const list = valueAt(draft, value as Trail)
      if (Array.isArray(list) && list.length === 0) replaceAt(draft, trail, undefined)
    }
  })
}

/**
 * Mends a puppet after an edit.
 *
 * @param before a sound puppet
 * @param step applies each change as part of the edit
 */
export function mended(before: Puppet, after: Puppet, step: Step): Puppet {
  let [was, now] = [before, after]
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const start = now
    const gone = goneIn(was, now)
    now = mendReferences(was, now, gone, step)
    for (const { repairs = [] } of CAPABILITIES)
      for (const repair of repairs) {
        const recipe = repair(was, now, gone)
        if (recipe) now = step(recipe)
      }
    if (now === start) return now
    was = start
  }
  return now
}
