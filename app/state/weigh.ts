/** The brush for weights, bones that it passes over, and the stroke that is being painted. */
import { create } from 'zustand'
import type { Puppet } from '@marionette/core/document/schema'
import { blendedOf, type Blended } from '@marionette/core/rig/weights'
import type { BrushMode, WeightCanvas } from '@marionette/core/artwork/weightBrush'

/** What a drag does: paints with the brush, or takes points into the selection. */
export type WeighWay = 'paint' | 'points'

export interface WeighState {
  way: WeighWay
  /** Chosen vertices of a part's weights, and of how many. */
  chosen: { readonly part: string; readonly points: readonly number[]; readonly of: number } | null
  mode: BrushMode
  /** Canvas px. */
  radius: number
  /** 0 to 100 each. */
  strength: number
  value: number
  falloff: number
  /** Bones whose weights stay. */
  locked: ReadonlySet<string>
  /** Whether the other side of the middle of the canvas is painted as well. */
  mirrored: boolean
}

export const useWeigh = create<WeighState>(() => ({
  way: 'paint',
  chosen: null,
  mode: 'add',
  radius: 40,
  strength: 25,
  value: 50,
  falloff: 70,
  locked: new Set(),
  mirrored: false,
}))

export function lockWeights(bone: string, isLocked: boolean): void {
  useWeigh.setState(({ locked }) => {
    const next = new Set(locked)
    if (isLocked) next.add(bone)
    else next.delete(bone)
    return { locked: next }
  })
}

/** The chosen points with their bind; null where there are none, or where their part was weighed on another mesh since. */
export function chosenPoints(
  puppet: Puppet,
  { chosen }: Pick<WeighState, 'chosen'> = useWeigh.getState(),
): { part: string; bind: Blended; points: readonly number[] } | null {
  const bind = chosen && blendedOf(puppet, chosen.part)
  if (!chosen || !bind || bind.field.vertices.length / 2 !== chosen.of || chosen.points.length === 0) return null
  return { part: chosen.part, bind, points: chosen.points }
}

let painted: { part: string; canvas: WeightCanvas } | null = null

/** What is being painted; weights of it are newer than those of the document. */
export const paintedWeights = (part: string): WeightCanvas | null => (painted?.part === part ? painted.canvas : null)
export const setPainted = (part: string | null, canvas: WeightCanvas | null): void => {
  painted = part !== null && canvas ? { part, canvas } : null
}
