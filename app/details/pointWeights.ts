/** What is done to the weights of chosen points: given to a bone, typed, smoothed, copied and pasted. */
import { toast } from 'sonner'
import { denseRows, fieldOf, smoothedWeights } from '@marionette/core/artwork/weightFields'
import { layWeights, meanWeights, weighPoints } from '@marionette/core/artwork/weightPoints'
import type { WeightField } from '@marionette/core/document/schema'
import { bindBlended, setWeights } from '@marionette/core/edit/binds'
import { edit } from '@marionette/core/edit/command'
import { openPuppet, perform } from '../state/document'
import { chosenPoints, useWeigh } from '../state/weigh'

const counted = (points: readonly number[]): string => (points.length === 1 ? 'a point' : `${points.length} points`)

/** Sets the weight of a bone at some of the chosen points (all unless told otherwise); locked bones keep theirs. */
export function setPointWeight(bone: string, weight: number, of?: readonly number[]): void {
  const picked = chosenPoints(openPuppet())
  if (!picked) return
  const { part, bind } = picked
  const points = of ?? picked.points
  const at = bind.bones.indexOf(bone)
  if (at < 0) return void toast.error(`${openPuppet().bones[bone]!.name} is not among the bones of this part.`)
  const { locked } = useWeigh.getState()
  const flags = Uint8Array.from(bind.bones, (b) => Number(b !== bone && locked.has(b)))
  const field = weighPoints(bind.field, bind.bones.length, points, at, weight, flags)
  perform([edit(setWeights, { part, field })], `Weigh ${counted(points)} of ${openPuppet().parts[part]!.name}`)
}

export const givePoints = (bone: string): void => setPointWeight(bone, 1)

/** Draws the chosen points towards their neighbours. */
export function smoothPoints(): void {
  const picked = chosenPoints(openPuppet())
  if (!picked) return
  const { part, bind, points } = picked
  const count = bind.bones.length
  const smooth = smoothedWeights(bind)
  const rows = denseRows(bind.field, count)
  for (const v of points) rows.set(smooth.rows.subarray(v * count, (v + 1) * count), v * count)
  perform([edit(setWeights, { part, field: fieldOf(bind.field, rows, count) })], `Smooth ${counted(points)}`)
}

/** Weights of points that were copied: their mean, by bone. */
let copied: ReadonlyMap<string, number> | null = null

export function copyPoints(): void {
  const picked = chosenPoints(openPuppet())
  if (!picked) return
  copied = meanWeights(picked.bind.field, picked.bind.bones, picked.points)
  toast(picked.points.length === 1 ? 'Weights of the point copied.' : `Mean weights of ${picked.points.length} points copied.`)
}

export function pastePoints(): void {
  const puppet = openPuppet()
  const picked = chosenPoints(puppet)
  if (!picked) return
  if (!copied) return void toast('Copy the weights of some points first.')
  const gone = [...copied.keys()].some((b) => !puppet.bones[b])
  if (gone) return void toast.error('A bone of the copied weights is not here any more.')
  const { part, bind, points } = picked
  const { bones, rows } = layWeights(bind.field, bind.bones, points, copied)
  const field: WeightField = fieldOf(bind.field, rows, bones.length)
  perform([edit(bindBlended, { part, bones: [...bones], field, mode: bind.mode })], `Paste weights on ${counted(points)}`)
}
