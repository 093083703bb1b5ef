/**
 * What names what: references of all capabilities, followed through a puppet. Those that lead nowhere are either breaches, or are mended
 * where what they named went in the same edit.
 */
import { pathOf, visitTexts, type DocPath, type Trail } from '../kernel/documentPaths'
import type { Problem } from '../kernel/problem'
import type { Gone, RecordKind, Reference, WhenGone } from '../kernel/records'
import { CAPABILITIES } from './capabilities'
import { channelOf, FAMILIES } from './channels'
import { goneIn, KINDS } from './ids'
import type { Puppet } from './schema'

/** A reference made ready. */
interface Followed extends Reference {
  readonly path: DocPath
  readonly field: keyof Puppet
  readonly kinds: readonly RecordKind[]
}

/** Kinds of things that have channels. Of some it follows from what a thing is like which channels it has; others have all, always. */
const POSED = KINDS.filter((k) => FAMILIES.has(k.kind))
const dependsOnRecords = (kind: string): boolean =>
  [...(FAMILIES.get(kind)?.fields.values() ?? [])].some(({ from }) => from.has !== undefined)
const CHANNEL_KINDS = POSED.filter((k) => !dependsOnRecords(k.kind)).map((k) => k.kind)
/** Fields from which it follows which channels there are. */
const CHANNEL_FIELDS: readonly (keyof Puppet)[] = [
  ...new Set(POSED.filter((k) => dependsOnRecords(k.kind)).map((k) => k.field)),
  'views',
  'stage',
]

function followed(reference: Reference): Followed {
  const path = pathOf(reference.at)
  const kinds = KINDS.filter((k) => k.kind === reference.to || (reference.to === 'art' && (k.kind === 'drawing' || k.kind === 'picture')))
  return { ...reference, path, field: path[0] as keyof Puppet, kinds }
}

const REFERENCES: readonly Followed[] = CAPABILITIES.flatMap((c) => c.references ?? []).map(followed)

/** A reference that leads nowhere, and the way to where it stands. */
export interface Dangling {
  readonly reference: Reference
  readonly id: string
  readonly trail: Trail
}

/** Whether something of a puppet answers to what a reference names. */
function answers(puppet: Puppet, { to, kinds }: Followed, id: string): boolean {
  return to === 'channel' ? channelOf(puppet, id) !== null : kinds.some((kind) => kind.has(puppet, id))
}

/**
 * References that lead nowhere.
 *
 * @param before a sound puppet from which it was edited: what is as it was there, and names what can only be there still, is not gone
 *   through again
 * @param gone what went between both
 */
export function danglingIn(puppet: Puppet, before?: Puppet, gone?: Gone): Dangling[] {
  const lost = before && (gone ?? goneIn(before, puppet))
  const areChannelsOther =
    CHANNEL_FIELDS.some((field) => puppet[field] !== before?.[field]) || CHANNEL_KINDS.some((kind) => lost?.has(kind) ?? true)
  const out: Dangling[] = []
  for (const reference of REFERENCES) {
    const { field, to, kinds, path } = reference
    const isOther = !lost || (to === 'channel' ? areChannelsOther : kinds.some(({ kind }) => lost.has(kind)))
    if (!isOther && puppet[field] === before[field]) continue
    visitTexts(
      puppet,
      path,
      (id, trail) => {
        if (!answers(puppet, reference, id)) out.push({ reference, id, trail })
      },
      isOther ? undefined : before,
    )
  }
  return out
}

/** Where a record stands, in words: its field and its id, which for lists is not the index. */
function placeOf(puppet: Puppet, trail: Trail): string {
  const [field = '', key = ''] = trail
  const record = (puppet[field as keyof Puppet] as Readonly<Record<string | number, unknown>>)[key]
  const id = typeof record === 'object' && record !== null && 'id' in record ? String(record.id) : key
  return `${field}.${id}`
}

/** References that lead nowhere, as breaches. */
export const referenceProblems = (puppet: Puppet, before?: Puppet): Problem[] =>
  danglingIn(puppet, before).map(({ reference: { to, says }, id, trail }) => ({
    path: placeOf(puppet, trail),
    message: to === 'channel' ? `${says} the channel "${id}", which does not exist` : `${says} the missing ${to} "${id}"`,
  }))

/** The trail as far as a path that is its beginning goes. */
export const cutTo = (trail: Trail, beginning: string): Trail => trail.slice(0, pathOf(beginning).length)

/** What happens where there is no heir. */
export const withoutHeir = (gone: WhenGone): Exclude<WhenGone, { heir: WhenGone }> =>
  typeof gone === 'object' && 'heir' in gone ? withoutHeir(gone.heir) : gone
