/** What is selected for cutting: an area of the shown canvas. It is no part of the puppet and goes with the bench. */
import { create } from 'zustand'
import type { OutlineStretch } from '@marionette/core/artwork/outlineStretch'
import type { SelectionMode } from '@marionette/core/artwork/selection'
import type { Area } from '@marionette/core/geometry/booleans'

export type CutBy = 'lasso' | 'box' | 'colour' | 'stretch'

/** One stretch of an outline that is selected in place of an area. */
export interface CutStretch {
  readonly part: string
  readonly stretch: OutlineStretch
  /** Where it runs on the shown canvas: flat x,y pairs. */
  readonly points: readonly number[]
}

interface CutState {
  readonly area: Area | null
  readonly stretch: CutStretch | null
  /** px² */
  readonly size: number
  readonly by: CutBy
  /** How far a colour may be off, and gaps that are closed, when an area is picked by its colour. */
  readonly tolerance: number
  readonly gap: number
  /** Whether the next piece is taken out of its source; null as is sensible for the source. */
  readonly keep: boolean | null
  /** How the last piece was sent, to be repeated by one key. */
  readonly last: { readonly name: string; readonly to: string | null; readonly keep: boolean } | null
  readonly busy: boolean
}

export const useCut = create<CutState>(() => ({
  area: null,
  stretch: null,
  size: 0,
  by: 'lasso',
  tolerance: 24,
  gap: 2,
  keep: null,
  last: null,
  busy: false,
}))

/** What held keys ask of the next loop. */
export const modeOf = ({ shift, alt }: { shift: boolean; alt: boolean }): SelectionMode =>
  shift && alt ? 'intersect' : shift ? 'add' : alt ? 'subtract' : 'new'
