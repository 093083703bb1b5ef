/** Dragging targets: in the pose, or at rest. */
import type { Vec } from '@marionette/core/puppet/schema'
import { moveTarget } from '@marionette/core/constraints/commands'
import { setPose } from '@marionette/core/poses/commands'
import { toRest } from '@marionette/core/posing/drag'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture } from '../../editor/document'
import { ownNow } from '../../editor/poseInverse'
import { targetAt } from './targetMarks'
import type { ToolEvent, ToolHost } from '../../stage/tool'
import type { Editor } from '../../editor/editor'
import { edit } from '@marionette/core/kernel/command'
import { channelAddress } from '@marionette/core/kernel/channel'
import { targetPlace } from '@marionette/core/puppet/frame'
import { recordOf, sure } from '@marionette/core/kernel/sure'

/** Reach of a target's square, screen px. */
const REACH = 11

export const targetUnder = (host: ToolHost, at: Vec): string | null => targetAt(host.model, at, host.px(REACH))

const rounded = (v: number): number => Math.round(v * 100) / 100

/** A drag of one target, from press to release. */
export class TargetDrag {
  private target: string | null = null
  private isDragging = false
  /** From the pointer to the target when it was taken. */
  private offset: Vec = { x: 0, y: 0 }

  constructor(private readonly atRest: boolean) {}

  get held(): string | null {
    return this.target
  }

  /** Takes hold of a target from a spot, near it or far. */
  take(target: string | null, at: Vec, host: ToolHost): void {
    this.target = target
    if (target === null) return
    const { x, y } = targetPlace(host.model.frame, target)
    this.offset = { x: x - at.x, y: y - at.y }
  }

  /** Takes an event; tells whether it belongs to a target. */
  pointer(event: ToolEvent, host: ToolHost): boolean {
    if (event.type === 'down') this.take(targetUnder(host, event.at), event.at, host)
    if (this.target === null) return false
    if (event.type === 'move' && event.dragging) this.move(event.at, host)
    if (event.type === 'up') {
      if (this.isDragging) commitGesture(host.editor)
      this.isDragging = false
      this.target = null
    }
    return true
  }

  private move(pointer: Vec, host: ToolHost): void {
    const at = { x: pointer.x + this.offset.x, y: pointer.y + this.offset.y }
    const id = sure(this.target)
    const target = recordOf(openPuppet(host.editor).targets, id)
    if (!this.isDragging) beginGesture(host.editor, `${this.atRest ? 'Place' : 'Move'} ${target.name}`)
    this.isDragging = true
    if (this.atRest) return updateGesture(host.editor, [edit(moveTarget, { target: id, at: { x: rounded(at.x), y: rounded(at.y) } })])
    const { rig, frame } = host.model
    const bone = target.parent === null ? -1 : sure(rig.bones.index.get(target.parent))
    const own = bone < 0 ? at : toRest(frame, bone, at)
    const values = {
      [channelAddress('target', id, 'x')]: rounded(own.x - target.at.x),
      [channelAddress('target', id, 'y')]: rounded(own.y - target.at.y),
    }
    updateGesture(host.editor, [edit(setPose, { values: ownNow(host.editor, frame, values) })])
  }

  cancel(editor: Editor): void {
    if (this.isDragging) cancelGesture(editor)
    this.isDragging = false
    this.target = null
  }
}
