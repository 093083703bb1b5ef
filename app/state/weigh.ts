/** The brush for weights, bones that it passes over, and the stroke that is being painted. */
import { create } from 'zustand'
import type { BrushMode, WeightCanvas } from '@marionette/core/artwork/weightBrush'

interface WeighState {
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

let painted: { part: string; canvas: WeightCanvas } | null = null

/** What is being painted; weights of it are newer than those of the document. */
export const paintedWeights = (part: string): WeightCanvas | null => (painted?.part === part ? painted.canvas : null)
export const setPainted = (part: string | null, canvas: WeightCanvas | null): void => {
  painted = part !== null && canvas ? { part, canvas } : null
}
