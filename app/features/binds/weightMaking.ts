/** Weights of blended parts made from others: mirrored, smoothed, pruned, copied, shared along a border, or by reach alone. */
import type { DenseWeights, PlacedField } from '@marionette/core/binds/weightFields'
import type { Puppet } from '@marionette/core/puppet/schema'
import { restMatrix } from '@marionette/core/parts/tree'
import { bindBlended, restEnds } from '@marionette/core/binds/commands'
import { otherSide } from '@marionette/core/kernel/sides'
import { mapPoints } from '@marionette/core/maths/geometry/affine'
import { blendedOf } from '@marionette/core/placement/posedWeights'
import { openPuppet, perform } from '../../editor/document'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { influenceOf } from '@marionette/core/bones/tree'
import { editorState, type Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'
import { partOf } from '@marionette/core/parts/lookup'

function placedOf(puppet: Puppet, part: string): PlacedField | null {
  const bind = blendedOf(puppet, part)
  return bind && { field: bind.field, bones: bind.bones, places: mapPoints(restMatrix(puppet, part), bind.field.vertices) }
}

/** Works on weights are loaded when they are first asked for. */
const works = () => import('@marionette/core/binds/weightFields')

/** The bind of a part with other weights; bones that pull nowhere are left out. */
async function boundWith(puppet: Puppet, part: string, weights: DenseWeights, least?: number): Promise<Edit> {
  const { fieldOf, pulling } = await works()
  const { field, mode } = sure(blendedOf(puppet, part))
  const { bones, rows } = pulling(weights)
  return edit(bindBlended, { part, bones: [...bones], field: fieldOf(field, rows, bones.length, least), mode })
}

/** Takes the weights of the side with the named bones over to the other side of the canvas's middle. */
export async function mirrorWeights(editor: Editor, part: string, from: 1 | -1): Promise<void> {
  const puppet = openPuppet(editor)
  const placed = placedOf(puppet, part)
  if (!placed) return
  const byName = new Map(Object.values(puppet.bones).map((b) => [b.name, b.id]))
  const other = (bone: string): string => byName.get(otherSide(boneOf(puppet, bone).name) ?? '') ?? bone
  const missing = placed.bones.map(other).find((b) => !placed.bones.includes(b))
  if (missing !== undefined) return void editor.notify.error(`"${boneOf(puppet, missing).name}" is not among the bones of this part.`)
  const { mirroredWeights } = await works()
  const dense = mirroredWeights(placed, puppet.canvas.width / 2, from, other)
  perform(editor, [await boundWith(puppet, part, dense)], `Mirror weights of ${partOf(puppet, part).name}`)
}

export async function smoothWeights(editor: Editor, part: string): Promise<void> {
  const puppet = openPuppet(editor)
  const placed = placedOf(puppet, part)
  if (!placed) return
  const { smoothedWeights } = await works()
  perform(editor, [await boundWith(puppet, part, smoothedWeights(placed))], `Smooth weights of ${partOf(puppet, part).name}`)
}

/** Weights less than this are taken out by pruning. */
const FAINT = 0.05

export async function pruneWeights(editor: Editor, part: string): Promise<void> {
  const puppet = openPuppet(editor)
  const placed = placedOf(puppet, part)
  if (!placed) return
  const { denseOf } = await works()
  perform(editor, [await boundWith(puppet, part, denseOf(placed), FAINT)], `Prune weights of ${partOf(puppet, part).name}`)
}

/** Weights by the reach of bones alone, in place of heat: each as far and as strongly as its influence says. */
export async function reachWeights(editor: Editor, part: string): Promise<void> {
  const puppet = openPuppet(editor)
  const placed = placedOf(puppet, part)
  if (!placed) return
  const { influenceWeights } = await works()
  const dense = influenceWeights(
    placed.places,
    placed.bones,
    restEnds(puppet, placed.bones),
    placed.bones.map((b) => influenceOf(boneOf(puppet, b))),
  )
  perform(editor, [await boundWith(puppet, part, dense)], `Weigh ${partOf(puppet, part).name} by reach`)
}

/** Takes the weights of another part over, by position. */
export async function takeWeights(editor: Editor, part: string, from: string): Promise<void> {
  const puppet = openPuppet(editor)
  const [own, other] = [placedOf(puppet, part), placedOf(puppet, from)]
  if (!own || !other) return
  const { transferredWeights } = await works()
  perform(editor, [await boundWith(puppet, part, transferredWeights(other, own.places))], `Take weights of ${partOf(puppet, from).name}`)
}

interface Own {
  /** Weights of a part with the names of their bones, to be laid on another part here or in another puppet. */
  copied: { readonly of: string; readonly placed: PlacedField; readonly names: ReadonlyMap<string, string> } | null
}

const stateOf = editorState((): Own => ({ copied: null }))

export const hasCopiedWeights = (editor: Editor): boolean => stateOf(editor).copied !== null

export function copyWeights(editor: Editor, part: string): void {
  const own = stateOf(editor)
  const puppet = openPuppet(editor)
  const placed = placedOf(puppet, part)
  if (!placed) return
  own.copied = {
    of: partOf(puppet, part).name,
    placed,
    names: new Map(placed.bones.map((b) => [b, boneOf(puppet, b).name])),
  }
  editor.notify(`Weights of ${own.copied.of} copied: paste them on any part that is bound smoothly.`)
}

/** Lays the copied weights on a part, by position; bones are the same ones, or those of the same names. */
export async function pasteWeights(editor: Editor, part: string): Promise<void> {
  const { copied } = stateOf(editor)
  const puppet = openPuppet(editor)
  const own = placedOf(puppet, part)
  if (!own || !copied) return
  const byName = new Map(Object.values(puppet.bones).map((b) => [b.name, b.id]))
  const { names, placed } = copied
  const bones = placed.bones.map((b) => (puppet.bones[b]?.name === names.get(b) ? b : byName.get(names.get(b) ?? '')))
  const missing = bones.indexOf(undefined)
  if (missing >= 0) return void editor.notify.error(`There is no bone "${names.get(nth(placed.bones, missing))}" here.`)
  const { transferredWeights } = await works()
  const from = { ...placed, bones: bones as string[] }
  perform(editor, [await boundWith(puppet, part, transferredWeights(from, own.places))], `Paste weights of ${copied.of}`)
}

/** How near two parts lie where they share weights, canvas px. */
const BORDER = 24

/** Makes the weights of two parts one along their border, so that they never open there. */
export async function shareBorder(editor: Editor, part: string, other: string): Promise<void> {
  const puppet = openPuppet(editor)
  const [a, b] = [placedOf(puppet, part), placedOf(puppet, other)]
  if (!a || !b) return
  const { sharedBorder } = await works()
  const [own, theirs] = sharedBorder(a, b, BORDER)
  perform(
    editor,
    [await boundWith(puppet, part, own), await boundWith(puppet, other, theirs)],
    `Share the border with ${partOf(puppet, other).name}`,
  )
}
