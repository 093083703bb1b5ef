/** Making joints: between two selected parts, where two lie over each other, or all that the puppet seems to have. */
import type { CapPieces } from '@marionette/core/artwork/jointCaps'
import { toast } from 'sonner'
import { freshId } from '@marionette/core/document/ids'
import type { Vec } from '@marionette/core/document/schema'
import { partsBelow } from '@marionette/core/document/tree'
import { edit } from '@marionette/core/edit/command'
import { addJoint } from '@marionette/core/edit/joints'
import { openPuppet, perform } from '../state/document'
import { selectNothing, setTool, useSession } from '../state/session'
import { orSaid, withNote, work } from '../state/work'
import { capInWorker, proposeJointInWorker, proposeJointsInWorker } from '../workers/client'

export const selectJoint = (joint: string | null): void => {
  selectNothing()
  useSession.setState({ joint })
  if (joint !== null) setTool('parts', 'joint')
}

const rounded = (v: number): number => Math.round(v * 10) / 10

/** Joins two parts where they meet, or at a spot; the one painted above covers the other. */
export async function joinParts(a: string, b: string, at?: Vec): Promise<void> {
  const puppet = openPuppet()
  const order = partsBelow(puppet, puppet.root).map((p) => p.id)
  const [under, over] = order.indexOf(a) < order.indexOf(b) ? [a, b] : [b, a]
  const disc = await orSaid(() => proposeJointInWorker(puppet, under, over))
  if (!disc && !at) return void toast.error('These two parts are nowhere near each other.')
  const centre = at ?? disc!.centre
  const id = freshId('joint')
  const joint = { id, under, over, at: { x: rounded(centre.x), y: rounded(centre.y) }, radius: rounded(disc?.radius ?? 20) }
  const name = (part: string): string => puppet.parts[part]!.name
  if (perform([edit(addJoint, joint)], `Join ${name(over)} to ${name(under)}`)) selectJoint(id)
}

/** Makes every joint that the puppet seems to have. */
export async function makeProposedJoints(): Promise<void> {
  const found = await withNote('Looking for joints…', (signal) => proposeJointsInWorker(openPuppet(), signal))
  if (!found) return
  if (found.length === 0) return void toast('No two parts were found that could be joined.')
  const edits = found.map((joint) => edit(addJoint, { id: freshId('joint'), ...joint }))
  if (perform(edits, `Make ${found.length} joints`)) toast(`${found.length} joints were made.`)
}

/** Gives a joint its round ends. */
export function capJoint(
  id: string,
  options: { readonly threshold: number; readonly pieces: CapPieces },
  progress: (done: number) => void,
  signal: AbortSignal,
): Promise<boolean> {
  const puppet = openPuppet()
  const { under, over } = puppet.joints[id]!
  return work(`Round the ends at ${puppet.parts[over]!.name}`, [under, over], (now, assets) =>
    capInWorker(now, now.joints[id]!, assets, options, progress, signal),
  )
}
