/** The rig and the frame that the stage shows, derived from the open puppet. */
import type { Puppet } from '@marionette/core/document/schema'
import { compile, type Rig } from '@marionette/core/rig/compile'
import { evaluate, makeFrame, writePose, type Frame } from '@marionette/core/rig/evaluate'

export interface StageModel {
  readonly rig: Rig
  readonly frame: Frame
  /** Pose array of the frame. */
  readonly pose: Float64Array
}

const isSameStructure = (a: Puppet, b: Puppet): boolean =>
  a.parts === b.parts &&
  a.bones === b.bones &&
  a.drawings === b.drawings &&
  a.pictures === b.pictures &&
  a.root === b.root &&
  a.skeleton === b.skeleton &&
  a.targets === b.targets &&
  a.constraints === b.constraints &&
  a.view === b.view &&
  a.canvas === b.canvas &&
  a.reference === b.reference &&
  a.guides === b.guides

/** Keeps one rig and its buffers, compiling again only when the structure changed. */
export class StageModelSource {
  private model: StageModel | null = null
  private source: Puppet | null = null
  private atRest = false
  private isStale = false

  /** What the rig holds was changed in place, as weights are while they are painted: the next frame is made anew. */
  refresh(): void {
    this.isStale = true
  }

  /** The model for a puppet, posed or at rest; the frame's buffers are written anew. */
  get(puppet: Puppet, atRest: boolean): StageModel {
    if (!this.model || !this.source || !isSameStructure(puppet, this.source)) {
      const rig = compile(puppet)
      this.model = { rig, frame: makeFrame(rig), pose: new Float64Array(rig.restPose.length) }
      this.source = null
    }
    if (this.source !== puppet || this.atRest !== atRest || this.isStale) {
      this.isStale = false
      const { rig, frame, pose } = this.model
      evaluate(rig, writePose(rig, atRest ? {} : puppet.pose, pose), frame)
      this.source = puppet
      this.atRest = atRest
    }
    return this.model
  }
}

/** The one model of the open puppet. */
export const stageModel = new StageModelSource()
