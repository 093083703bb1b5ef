/**
 * Kinds of records, and what names them. From these tables follow that ids are unique, that what is named exists, what happens to
 * those that name something when it goes, and how ids change in copies.
 */
import type { Puppet } from '../puppet/schema'
import type { Problem } from './problem'

/** An id with where its record stands, for messages. */
export interface IdAt {
  readonly path: string
  readonly id: string
}

/** A kind of thing with ids. */
export interface RecordKind {
  /** Kind of its ids. */
  readonly kind: string
  /** What people call one of them. */
  readonly label: string
  /** The field of the puppet that its records stand in. */
  readonly field: keyof Puppet
  /** Whether each is filed under its id; else they stand in a list, or inside of other records. */
  readonly filed: boolean
  /** Every id, each as often as it is given to a thing. */
  ids(puppet: Puppet): Iterable<IdAt>
  has(puppet: Puppet, id: string): boolean
  /** Who takes the place of one that is gone, as the parent of a bone does; null for nobody. */
  heir?(before: Puppet, id: string): string | null
}

type Records = Readonly<Record<string, unknown>>
type Listed = readonly { readonly id: string }[]

/** A kind of which each record is filed under its id, in a field of the puppet. */
export const filedKind = (kind: string, label: string, field: keyof Puppet): RecordKind => ({
  ...{ kind, label, field, filed: true },
  ids: (puppet) => Object.keys(puppet[field] as Records).map((id) => ({ path: `${field}.${id}`, id })),
  has: (puppet, id) => Object.hasOwn(puppet[field] as Records, id),
})

/** A kind of which records stand in a list, in a field of the puppet. */
export const listedKind = (kind: string, label: string, field: keyof Puppet): RecordKind => ({
  ...{ kind, label, field, filed: false },
  ids: (puppet) => (puppet[field] as Listed).map(({ id }) => ({ path: `${field}.${id}`, id })),
  has: (puppet, id) => (puppet[field] as Listed).some((record) => record.id === id),
})

/** The nearest heir of one that is gone that is still there; null for nobody. */
export function heirOf(kind: RecordKind, before: Puppet, after: Puppet, id: string): string | null {
  let heir = kind.heir?.(before, id) ?? null
  while (heir !== null && !kind.has(after, heir)) heir = kind.heir?.(before, heir) ?? null
  return heir
}

/** What happens to that which names something that is gone. Paths are beginnings of that of the reference (documentPaths.ts). */
export type WhenGone =
  /** What stands there is taken out: an item of a list, a key of a record, a field. Once its list is empty, `empty` goes as well. */
  | { readonly drop: string; readonly empty?: string }
  /** It is null from then on. */
  | { readonly clear: string }
  /** Another value takes its place. */
  | { readonly replace: string; readonly by: unknown }
  /** The heir is named instead; where there is none, the rest says what happens. */
  | { readonly heir: WhenGone }
  /** A repair of the capability sees to it. */
  | 'repaired'

/** Where a document names things of a kind. */
export interface Reference {
  readonly at: string
  /** The kind of what is named; `channel` for addresses. */
  readonly to: string
  /** How a breach is told: `is masked by` becomes `is masked by the missing part "x"`. */
  readonly says: string
  readonly gone: WhenGone
}

/** What went in an edit: ids by kind. */
export type Gone = ReadonlyMap<string, ReadonlySet<string>>

/**
 * What follows from an edit besides references. Looks at the puppet before and after it, and returns what changes the draft; null where
 * nothing follows.
 */
export type Repair = (before: Puppet, after: Puppet, gone: Gone) => ((draft: Puppet) => void) | null

/**
 * What must hold of a puppet besides its schema and its references. Those of the first stage make it safe to walk the document, those of
 * the last need everything else to hold.
 */
export interface Check {
  readonly stage: 'trees' | 'records' | 'circles' | 'last'
  /** Fields of the puppet that it looks at; it is left out where an edit changed none of them. */
  readonly needs: readonly (keyof Puppet)[]
  find(puppet: Puppet): readonly Problem[]
}
