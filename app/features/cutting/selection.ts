/** What is selected for cutting: an area of the shown canvas. It is no part of the puppet and goes with the bench. */
import type { SelectionMode } from '@marionette/core/artwork/selection'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import type { FoundStretch } from '../../jobs/cutting'
import { editorStore } from '../../editor/editor'

export type CutBy = 'lasso' | 'box' | 'colour' | 'stretch'

interface CutState {
  readonly area: Area | null
  /** One stretch of an outline, selected in place of an area. */
  readonly stretch: FoundStretch | null
  /** What of the area belongs to something beside what is cut. */
  readonly foreign: Area | null
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
  /** Work under way, and the share that is done where that is known. */
  readonly busy: { readonly done: number | null } | null
}

export const useCut = editorStore<CutState>(() => ({
  area: null,
  stretch: null,
  foreign: null,
  size: 0,
  by: 'lasso',
  tolerance: 24,
  gap: 2,
  keep: null,
  last: null,
  busy: null,
}))

/** What held keys ask of the next loop. */
export const modeOf = ({ shift, alt }: { shift: boolean; alt: boolean }): SelectionMode =>
  shift && alt ? 'intersect' : shift ? 'add' : alt ? 'subtract' : 'new'
