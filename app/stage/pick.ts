/** What lies under the pointer. */
import type { Vec } from '@marionette/core/puppet/schema'
import { partPath } from '@marionette/core/parts/tree'
import { bonePoint, partsAt } from '@marionette/core/puppet/probe'
import { NOTHING, selectNothing, selectParts, useSession, type Selection } from '../editor/session'
import type { ToolEvent, ToolHost } from './tool'
import type { Editor } from '../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

export type BoneSpot = 'ring' | 'bead' | 'rod'

export interface BoneHit {
  readonly bone: number
  readonly id: string
  readonly spot: BoneSpot
}

const RING_REACH = 9
const BEAD_REACH = 8
/** A rod is pressed on its line alone: beside it lies the drawing. */
const ROD_REACH = 4

/** The bone under a spot; beads and rings win over rods, selected bones over others, and later ones over earlier ones; locked ones are passed over. */
export function boneAt(host: ToolHost, at: Vec): BoneHit | null {
  const { rig, frame } = host.model
  const { selection } = useSession.of(host.editor).getState()
  let best: (BoneHit & { score: number }) | null = null
  rig.bones.ids.forEach((id, bone) => {
    if (boneOf(rig.puppet, id).locked) return
    const start = bonePoint(frame, bone, 0)
    const end = bonePoint(frame, bone, 1)
    const chosen = selection.kind === 'bone' && selection.ids.includes(id) ? 40 : 0
    const consider = (spot: BoneSpot, distance: number, reach: number, rank: number): void => {
      const limit = host.px(reach)
      if (distance > limit) return
      const score = rank + chosen - (distance / limit) * 10
      if (!best || score >= best.score) best = { bone, id, spot, score }
    }
    consider('bead', Math.hypot(at.x - end.x, at.y - end.y), BEAD_REACH, 100)
    consider('ring', Math.hypot(at.x - start.x, at.y - start.y), RING_REACH, 105)
    consider('rod', distanceToSegment(at, start, end), ROD_REACH, 0)
  })
  return best
}

function distanceToSegment(p: Vec, a: Vec, b: Vec): number {
  const dx = b.x - a.x
  const dy = b.y - a.y
  const t = Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / Math.max(dx * dx + dy * dy, 1e-9)))
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy)
}

/** Parts under a spot, top to bottom; locked ones are passed over. */
export function partsUnder(host: ToolHost, at: Vec): string[] {
  const { puppet } = host.model.rig
  const isLocked = (id: string): boolean => partPath(puppet, id).some((p) => p.locked)
  return partsAt(host.model.frame, at.x, at.y, host.px(2)).filter((id) => !isLocked(id))
}

/** The part that a click selects: the topmost, or on repeat the one below the selected one. */
export function nextPartUnder(stack: readonly string[], selected: string | undefined): string | undefined {
  const at = selected === undefined ? -1 : stack.indexOf(selected)
  return stack[(at + 1) % Math.max(1, stack.length)]
}

/** Marks what lies under the pointer; the same thing again changes nothing, so that nothing is drawn anew. */
export function markHover(editor: Editor, kind: Selection['kind'], id: string | undefined): void {
  if (useSession.of(editor).getState().hover.ids[0] === id) return
  useSession.of(editor).setState({ hover: id === undefined ? NOTHING : { kind, ids: [id] } })
}

/** A press beside all points takes the part there. */
export function selectAnother(event: ToolEvent, host: ToolHost): void {
  const stack = partsUnder(host, event.at)
  const selected = useSession.of(host.editor).getState().selection.ids[0]
  if (stack.length === 0) selectNothing(host.editor)
  else if (selected === undefined || !stack.includes(selected)) selectParts(host.editor, sure(nextPartUnder(stack, undefined)))
}
