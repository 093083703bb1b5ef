/** Findings of the rig report: what a rigger should look at, each with the way to the spot. */
import type { Puppet } from '../puppet/schema'

/** Something that a person may want to mend, said in one sentence. */
export interface Finding {
  readonly code: string
  /** How grave it is: 0 for what everybody sees; the report lists the gravest first. */
  readonly gravity: number
  /** Work area in which it is mended. */
  readonly bench: 'parts' | 'bones' | 'shape' | 'face'
  readonly target: { readonly kind: 'part' | 'bone' | 'response'; readonly id: string; readonly name: string }
  /** The joint that is meant, where one is. */
  readonly joint?: string
  /** Goes on after the target's name. */
  readonly message: string
}

/** What turning a joint through its range showed. */
export interface JointFaults {
  readonly grade: 'good' | 'look' | 'broken'
  /** The worst of it in words that go on after the joint's name. */
  readonly said: string
}

/** A piece that hardly belongs to its part. */
export interface StrayIn {
  readonly part: string
  /** Canvas px. */
  readonly across: number
  /** Name of the part whose artwork it repeats, where there is one. */
  readonly of: string | null
}

/** What was measured in pictures, besides what the document says. */
export interface Measured {
  /** Joints that were swept. */
  readonly sweeps: ReadonlyMap<string, JointFaults>
  readonly strays: readonly StrayIn[]
}

/** Looks for findings of one capability. */
export type Inspect = (puppet: Puppet, measured: Measured) => Finding[]
