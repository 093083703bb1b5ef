/** The brush for weights, bones that it passes over, and the stroke that is being painted. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { blendedOf, type Blended } from '@marionette/core/placement/posedWeights'
import type { BrushMode, WeightCanvas } from '@marionette/core/binds/weightBrush'
import { editorState, editorStore, type Editor } from '../../editor/editor'

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

export const useWeigh = editorStore<WeighState>(() => ({
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

export function lockWeights(editor: Editor, bone: string, isLocked: boolean): void {
  useWeigh.of(editor).setState(({ locked }) => {
    const next = new Set(locked)
    if (isLocked) next.add(bone)
    else next.delete(bone)
    return { locked: next }
  })
}

/** The chosen points with their bind; null where there are none, or where their part was weighed on another mesh since. */
export function chosenPoints(
  editor: Editor,
  puppet: Puppet,
  { chosen }: Pick<WeighState, 'chosen'> = useWeigh.of(editor).getState(),
): { part: string; bind: Blended; points: readonly number[] } | null {
  const bind = chosen && blendedOf(puppet, chosen.part)
  if (!chosen || !bind || bind.field.vertices.length / 2 !== chosen.of || chosen.points.length === 0) return null
  return { part: chosen.part, bind, points: chosen.points }
}

interface Own {
  painted: { part: string; canvas: WeightCanvas } | null
}

const stateOf = editorState((): Own => ({ painted: null }))

/** What is being painted; weights of it are newer than those of the document. */
export function paintedWeights(editor: Editor, part: string): WeightCanvas | null {
  const { painted } = stateOf(editor)
  return painted?.part === part ? painted.canvas : null
}
export const setPainted = (editor: Editor, part: string | null, canvas: WeightCanvas | null): void => {
  const own = stateOf(editor)
  own.painted = part !== null && canvas ? { part, canvas } : null
}
