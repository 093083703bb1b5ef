/** The rig and the frame that the stage shows, derived from the open puppet. */
import type { Simulation } from '@marionette/core/kernel/stage'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import type { Frame } from '@marionette/core/puppet/frame'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Puppet } from '@marionette/core/puppet/schema'
import { heldMotion } from '@marionette/core/simulation/speeds'
import { liveSimulation, liveTime, onLive, writeLive } from './live'
import { useHeldSpeeds } from './speeds'
import { editorState, type Editor } from './editor'
import { sure } from '@marionette/core/kernel/sure'

export interface StageModel {
  readonly rig: Rig
  readonly frame: Frame
  /** Values of channels as they are seen, by their slots: the pose with what controls and responses add. */
  readonly pose: Float64Array
  /** The pose alone. */
  readonly own: Float64Array
}

/** Keeps one rig and its buffers, compiling again only what an edit touched. */
export class StageModelSource {
  private model: StageModel | null = null
  /** The last model of each view: going back and forth between them compiles nothing again. */
  private readonly ofViews = new Map<string, StageModel>()
  private source: Puppet | null = null
  private atRest = false
  private isStale = false
  private simulation: Simulation | null = null

  constructor(private readonly editor: Editor) {}

  /**
   * What the rig holds was changed in place, as weights are while they are painted, or what moves by itself has gone on: the next frame is
   * made anew.
   *
   * @param simulation motion of its next frames; what is held where it is left out
   */
  refresh(simulation: Simulation | null = null): void {
    this.isStale = true
    this.simulation = simulation
  }

  /** The model for a puppet, posed or at rest; the frame's buffers are written anew. */
  get(puppet: Puppet, atRest: boolean): StageModel {
    this.follow(puppet)
    if (this.source !== puppet || this.atRest !== atRest || this.isStale) {
      this.isStale = false
      const { rig, frame, own } = sure(this.model)
      writePose(rig, atRest ? {} : puppet.pose, own)
      if (!atRest) writeLive(this.editor, rig, own)
      const simulation =
        this.simulation ??
        (atRest ? null : liveSimulation(this.editor, rig)) ??
        heldMotion(rig, useHeldSpeeds.of(this.editor).getState().held)
      evaluate(rig, own, frame, { time: atRest ? null : liveTime(this.editor), simulation })
      this.source = puppet
      this.atRest = atRest
    }
    return sure(this.model)
  }

  private follow(puppet: Puppet): void {
    if (puppet === this.source) return
    if (this.model && this.model.rig.puppet.id !== puppet.id) this.ofViews.clear()
    const last = this.ofViews.get(puppet.view)
    const rig = compile(puppet, last?.rig ?? (this.model?.rig.puppet.id === puppet.id ? this.model.rig : undefined))
    if (rig === this.model?.rig) return
    this.model = rig === last?.rig ? last : modelOf(rig)
    this.ofViews.set(puppet.view, this.model)
    this.source = null
    this.simulation = null
  }
}

function modelOf(rig: Rig): StageModel {
  const frame = makeFrame(rig)
  return { rig, frame, pose: frame.values, own: new Float64Array(rig.restPose.length) }
}

/** The one model of the open puppet. */
export const stageModel = editorState((editor) => {
  const source = new StageModelSource(editor)
  useHeldSpeeds.of(editor).subscribe(() => source.refresh())
  onLive(editor, () => source.refresh())
  return source
})
