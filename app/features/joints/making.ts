/** Making joints: between two selected parts, where two lie over each other, or all that the puppet seems to have. */
import type { CapPieces } from '@marionette/core/joints/jointCaps'
import { freshId } from '@marionette/core/kernel/ids'
import type { Puppet, Vec } from '@marionette/core/puppet/schema'
import { partsBelow, restMatrix } from '@marionette/core/parts/tree'
import { partChannel } from '@marionette/core/parts/channels'
import { setPivot } from '@marionette/core/parts/commands'
import { apply, invert } from '@marionette/core/maths/geometry/affine'
import { jointTurn } from '@marionette/core/joints/turn'
import type { Joint } from '@marionette/core/joints/records'
import { addJoint } from '@marionette/core/joints/commands'
import { openPuppet, perform } from '../../editor/document'
import { selectNothing, setTool, useSession } from '../../editor/session'
import { orSaid, withNote, work } from '../../editor/work'
import { edit, type Edit } from '@marionette/core/kernel/command'
import type { Editor } from '../../editor/editor'
import { recordOf, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

export const selectJoint = (editor: Editor, joint: string | null): void => {
  selectNothing(editor)
  useSession.of(editor).setState({ joint })
  if (joint !== null) setTool(editor, 'parts', 'joint')
}

const rounded = (v: number): number => Math.round(v * 10) / 10

/** Edits that put a joint's disc somewhere; the piece that turns by itself, without a bone, turns there from then on. */
export function placedJoint(puppet: Puppet, placing: Edit, joint: Pick<Joint, 'under' | 'over' | 'at' | 'radius'>): Edit[] {
  const { address, turning } = jointTurn(puppet, joint)
  const part = joint[turning]
  const back = invert(restMatrix(puppet, part))
  if (address !== partChannel(part, 'angle') || !back) return [placing]
  return [placing, edit(setPivot, { part, pivot: apply(back, joint.at) })]
}

/** Joins two parts where they meet, or at a spot; the one painted above covers the other. */
export async function joinParts(editor: Editor, a: string, b: string, at?: Vec): Promise<void> {
  const puppet = openPuppet(editor)
  const order = partsBelow(puppet, puppet.root).map((p) => p.id)
  const [under, over] = order.indexOf(a) < order.indexOf(b) ? [a, b] : [b, a]
  const disc = await orSaid(editor, () => editor.jobs.proposeJoint(puppet, under, over))
  if (!disc && !at) return void editor.notify.error('These two parts are nowhere near each other.')
  const centre = at ?? sure(disc).centre
  const id = freshId('joint')
  const joint = { id, under, over, at: { x: rounded(centre.x), y: rounded(centre.y) }, radius: rounded(disc?.radius ?? 20) }
  const name = (part: string): string => partOf(puppet, part).name
  if (perform(editor, placedJoint(puppet, edit(addJoint, joint), joint), `Join ${name(over)} to ${name(under)}`)) selectJoint(editor, id)
}

/** Makes every joint that the puppet seems to have. */
export async function makeProposedJoints(editor: Editor): Promise<void> {
  const found = await withNote(editor, 'Looking for joints…', (signal) => editor.jobs.proposeJoints(openPuppet(editor), signal))
  if (!found) return
  if (found.length === 0) return void editor.notify('No two parts were found that could be joined.')
  const edits = found.flatMap((joint) => placedJoint(openPuppet(editor), edit(addJoint, { id: freshId('joint'), ...joint }), joint))
  if (perform(editor, edits, `Make ${found.length} joints`)) editor.notify(`${found.length} joints were made.`)
}

/** Gives a joint its round ends. */
export function capJoint(
  editor: Editor,
  id: string,
  options: { readonly threshold: number; readonly pieces: CapPieces },
  progress: (done: number) => void,
  signal: AbortSignal,
): Promise<boolean> {
  const puppet = openPuppet(editor)
  const { under, over } = recordOf(puppet.joints, id)
  return work(editor, `Round the ends at ${partOf(puppet, over).name}`, [under, over], (now, assets) =>
    editor.jobs.cap(now, recordOf(now.joints, id), assets, options, progress, signal),
  )
}
