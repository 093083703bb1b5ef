/** Dragging targets: in the pose, or at rest. */
import { channelAddress } from '@marionette/core/document/channels'
import type { Vec } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { moveTarget } from '@marionette/core/edit/constraints'
import { setPose } from '@marionette/core/edit/pose'
import { toRest } from '@marionette/core/rig/drag'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture } from '../../state/document'
import { targetAt } from '../targetMarks'
import type { ToolEvent, ToolHost } from './tool'

/** Reach of a target's square, screen px. */
const REACH = 11

export const targetUnder = (host: ToolHost, at: Vec): string | null => targetAt(host.model, at, host.px(REACH))

const rounded = (v: number): number => Math.round(v * 100) / 100

/** A drag of one target, from press to release. */
export class TargetDrag {
  private target: string | null = null
  private isDragging = false

  constructor(private readonly atRest: boolean) {}

  get held(): string | null {
    return this.target
  }

  /** Takes an event; tells whether it belongs to a target. */
  pointer(event: ToolEvent, host: ToolHost): boolean {
    if (event.type === 'down') this.target = targetUnder(host, event.at)
    if (this.target === null) return false
    if (event.type === 'move' && event.dragging) this.move(event.at, host)
    if (event.type === 'up') {
      if (this.isDragging) commitGesture()
      this.isDragging = false
      this.target = null
    }
    return true
  }

  private move(at: Vec, host: ToolHost): void {
    const id = this.target!
    const target = openPuppet().targets[id]!
    if (!this.isDragging) beginGesture(`${this.atRest ? 'Place' : 'Move'} ${target.name}`)
    this.isDragging = true
    if (this.atRest) return updateGesture([edit(moveTarget, { target: id, at: { x: rounded(at.x), y: rounded(at.y) } })])
    const { rig, frame } = host.model
    const bone = target.parent === null ? -1 : rig.bones.index.get(target.parent)!
    const own = bone < 0 ? at : toRest(frame, bone, at)
    const values = {
      [channelAddress('target', id, 'x')]: rounded(own.x - target.at.x),
      [channelAddress('target', id, 'y')]: rounded(own.y - target.at.y),
    }
    updateGesture([edit(setPose, { values })])
  }

  cancel(): void {
    if (this.isDragging) cancelGesture()
    this.isDragging = false
    this.target = null
  }
}
