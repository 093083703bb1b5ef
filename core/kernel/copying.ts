/**
 * Copies: what goes along when parts and bones are duplicated, mirrored or given twins. Who copies says which of them, where they come to
 * lie and what they are called; each capability copies what is its own.
 */
import type { Vec } from './numbers'
import type { Part, Puppet } from '../puppet/schema'

/** A copying that is under way. */
export interface Copying {
  /** The puppet that is copied from, as it was before. */
  readonly source: Puppet
  /** Whether a thing is copied itself. */
  readonly isCopied: (kind: 'part' | 'bone', id: string) => boolean
  /** What stands for a thing on the copy's side: its copy, its counterpart, or itself. */
  readonly renamed: (kind: 'part' | 'bone', id: string) => string
  /** From the original's place on the canvas at rest to the copy's. */
  readonly at: (v: Vec) => Vec
  readonly name: (name: string) => string
  readonly mirrored: boolean
  /** What new ids begin with. */
  readonly prefix: string
}

/** Adds copies of things that hang on what is copied, as constraints do on bones. */
export type CopyAlong = (draft: Puppet, copying: Copying) => void

/** A copied part, of which what it names is renamed already, with what is inside of it under ids of its own. */
export type CopyInside = (part: Part, copying: Copying) => Part
