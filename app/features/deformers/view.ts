/** What the interface knows of a kind of deformer. A kind is one file, and one line in table.ts. */
import type { LucideIcon } from 'lucide-react'
import type { ComponentType } from 'react'
import type { Deformer, Puppet, Vec } from '@marionette/core/puppet/schema'
import type { NewHandle } from '@marionette/core/posing/handles'
import type { Camera } from '../../stage/camera'
import type { Editor } from '../../editor/editor'

/** Changes a deformer, under a label of the history. */
export type ChangeDeformer = (deformer: Deformer, label?: string) => void

/** A deformer with one handle more. */
export interface WithHandle {
  readonly deformer: Deformer
  readonly handle: string
  readonly label: string
}

/** How a deformer is made for a part, or for several in it. */
export interface MakeDeformer {
  readonly puppet: Puppet
  readonly part: string
  readonly id: string
  readonly name: string
  readonly only: readonly string[] | null
}

/** A kind of deformer with records `D`. Methods, so that views of all kinds stand in one table. */
export interface DeformerView<D> {
  readonly label: string
  readonly icon: LucideIcon
  /** What putting one on a part is called. */
  readonly action: string
  /** Whether one goes around several parts. */
  readonly aroundSeveral: boolean
  /** What to do once it is there. */
  readonly next?: string
  /** Form of its handles on the stage. */
  readonly handles: 'round' | 'square'
  /** Whether its handles can be turned and grown. */
  readonly turns: boolean
  /** Whether Alt-drag puts in a handle between two spots. */
  readonly hasBars: boolean
  /** What fields of its handles are called where it is not the usual. */
  readonly fields?: Readonly<Record<string, string>>
  make(what: MakeDeformer): Promise<Deformer>
  /** Its own numbers. */
  readonly Fields?: ComponentType<{ deformer: D; onChange: ChangeDeformer }>
  /** Numbers of one of its handles. */
  readonly HandleFields?: ComponentType<{ deformer: D; at: number; isPicture: boolean; onChange: ChangeDeformer }>
  /** The lines of its form through its handles, and how wide they are. */
  trace?(path: Path2D, d: D, spots: readonly Vec[]): number
  /** What is drawn besides, below its handles. */
  draw?(editor: Editor, pen: CanvasRenderingContext2D, camera: Camera, d: D, spots: readonly Vec[]): void
  /** One handle more; between two spots where there is an end. */
  addHandle?(d: D, made: NewHandle, end: NewHandle | null): WithHandle
  /** The same without a handle; null where it stays. */
  removeHandle?(d: D, handle: string): { readonly deformer: Deformer; readonly label: string } | null
}

/** A spot to a tenth of a pixel. */
export const tenth = ({ x, y }: Vec): Vec => ({ x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 })

/** Fitting a deformer needs the geometry of regions, which is loaded when it is first asked for. */
export const fitting = () => import('@marionette/core/binds/fitDeformers')
