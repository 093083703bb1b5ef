/** What is done to the weights of chosen points: given to a bone, typed, smoothed, copied and pasted. */
import { denseRows, fieldOf, smoothedWeights } from '@marionette/core/binds/weightFields'
import { layWeights, meanWeights, weighPoints } from '@marionette/core/binds/weightPoints'
import { bindBlended, setWeights } from '@marionette/core/binds/commands'
import { openPuppet, perform } from '../../editor/document'
import { chosenPoints, useWeigh } from './brush'
import { edit } from '@marionette/core/kernel/command'
import type { WeightField } from '@marionette/core/binds/records'
import { editorState, type Editor } from '../../editor/editor'
import { boneOf } from '@marionette/core/bones/lookup'
import { partOf } from '@marionette/core/parts/lookup'

const counted = (points: readonly number[]): string => (points.length === 1 ? 'a point' : `${points.length} points`)

/** Sets the weight of a bone at some of the chosen points (all unless told otherwise); locked bones keep theirs. */
export function setPointWeight(editor: Editor, bone: string, weight: number, of?: readonly number[]): void {
  const picked = chosenPoints(editor, openPuppet(editor))
  if (!picked) return
  const { part, bind } = picked
  const points = of ?? picked.points
  const at = bind.bones.indexOf(bone)
  if (at < 0) return void editor.notify.error(`${boneOf(openPuppet(editor), bone).name} is not among the bones of this part.`)
  const { locked } = useWeigh.of(editor).getState()
  const flags = Uint8Array.from(bind.bones, (b) => Number(b !== bone && locked.has(b)))
  const field = weighPoints(bind.field, bind.bones.length, points, at, weight, flags)
  perform(editor, [edit(setWeights, { part, field })], `Weigh ${counted(points)} of ${partOf(openPuppet(editor), part).name}`)
}

export const givePoints = (editor: Editor, bone: string): void => setPointWeight(editor, bone, 1)

/** Draws the chosen points towards their neighbours. */
export function smoothPoints(editor: Editor): void {
  const picked = chosenPoints(editor, openPuppet(editor))
  if (!picked) return
  const { part, bind, points } = picked
  const count = bind.bones.length
  const smooth = smoothedWeights(bind)
  const rows = denseRows(bind.field, count)
  for (const v of points) rows.set(smooth.rows.subarray(v * count, (v + 1) * count), v * count)
  perform(editor, [edit(setWeights, { part, field: fieldOf(bind.field, rows, count) })], `Smooth ${counted(points)}`)
}

interface Own {
  /** Weights of points that were copied: their mean, by bone. */
  copied: ReadonlyMap<string, number> | null
}

const stateOf = editorState((): Own => ({ copied: null }))

export function copyPoints(editor: Editor): void {
  const own = stateOf(editor)
  const picked = chosenPoints(editor, openPuppet(editor))
  if (!picked) return
  own.copied = meanWeights(picked.bind.field, picked.bind.bones, picked.points)
  editor.notify(picked.points.length === 1 ? 'Weights of the point copied.' : `Mean weights of ${picked.points.length} points copied.`)
}

export function pastePoints(editor: Editor): void {
  const own = stateOf(editor)
  const puppet = openPuppet(editor)
  const picked = chosenPoints(editor, puppet)
  if (!picked) return
  if (!own.copied) return void editor.notify('Copy the weights of some points first.')
  const gone = [...own.copied.keys()].some((b) => !puppet.bones[b])
  if (gone) return void editor.notify.error('A bone of the copied weights is not here any more.')
  const { part, bind, points } = picked
  const { bones, rows } = layWeights(bind.field, bind.bones, points, own.copied)
  const field: WeightField = fieldOf(bind.field, rows, bones.length)
  perform(editor, [edit(bindBlended, { part, bones: [...bones], field, mode: bind.mode })], `Paste weights on ${counted(points)}`)
}
