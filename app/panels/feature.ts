/**
 * A feature: what the interface shows of one capability. What everything shares loops over the table of them (features/features.ts) and
 * knows none by name.
 */
import type { ComponentType } from 'react'
import type { Finding } from '@marionette/core/kernel/finding'
import type { Puppet } from '@marionette/core/puppet/schema'
import type { Editor } from '../editor/editor'
import type { BenchId } from '../editor/session'
import type { Ghosts } from '../stage/ghosts'
import type { LensNow } from '../stage/lens'
import type { Mark } from '../stage/marks'
import type { StageView } from '../stage/stageView'
import type { Tool } from '../stage/tool'
import type { Action } from './action'

/** What is looked at when details are shown. */
export interface Seen {
  readonly puppet: Puppet
  /** What is selected, the first one first; empty for the puppet itself. */
  readonly ids: readonly string[]
  readonly bench: BenchId
}

/** Some details of a part, a bone or the puppet. */
export interface DetailsGroup {
  readonly about: 'part' | 'bone' | 'puppet'
  /** Where it stands among all groups: lower ones come first. */
  readonly place: number
  /** When it shows; always where this is left out. */
  readonly shows?: (seen: Seen) => boolean
  readonly Group: ComponentType<{ ids: readonly string[] }>
}

/** A tool in the belt of a bench. */
export interface BenchTool {
  readonly bench: BenchId
  /** Where it stands in the belt: lower ones come first. */
  readonly place: number
  readonly tool: Tool
}

/** Something of the puppet that the command search finds by its name. */
export interface Findable {
  readonly id: string
  readonly name: string
  /** What it is, for people: Response, Joint. */
  readonly kind: string
  /** Benches at which it is shown; every one where this is empty. */
  readonly benches: readonly BenchId[]
  /** Shows it, at one of those benches. */
  readonly show: (editor: Editor) => void
}

/** How a finding of the rig report is mended in one press. */
export interface Mend {
  readonly label: string
  readonly run: (editor: Editor, finding: Finding) => void
}

export interface Feature {
  readonly name: string
  /** Mends of findings, by their codes. */
  readonly mends?: Readonly<Record<string, Mend>>
  readonly finds?: (puppet: Puppet) => readonly Findable[]
  readonly details?: readonly DetailsGroup[]
  readonly tools?: readonly BenchTool[]
  /** Drawn over the artwork. */
  readonly marks?: readonly Mark[]
  /** Other moments of the puppet under the one on the stage. */
  readonly ghosts?: Ghosts
  /** What the stage is seen through, where that is not the usual view. */
  readonly lens?: LensNow
  /** Bars over the stage; each knows when it shows. */
  readonly bars?: readonly ComponentType<{ view: StageView }>[]
  /** Panels under the stage and over its whole width; each knows when it shows. */
  readonly docks?: readonly ComponentType[]
  readonly actions?: readonly Action[]
  /** What it listens to for as long as an editor is shown; returns how to end that. */
  readonly connect?: (editor: Editor) => () => void
  /** Sheets by the panel that opens them. */
  readonly sheets?: Readonly<Record<string, ComponentType>>
}

/** One tool in the belts of several benches, with its place in each. */
export const inBelts = (tool: Tool, places: Readonly<Partial<Record<BenchId, number>>>): BenchTool[] =>
  Object.entries(places).map(([bench, place]) => ({ bench: bench as BenchId, place, tool }))
