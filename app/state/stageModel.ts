/** The rig and the frame that the stage shows, derived from the open puppet. */
import { chosenBy, type Puppet } from '@marionette/core/document/schema'
import { answeringParts } from '@marionette/core/rig/answers/answers'
import { compile, withAnswers, type Rig } from '@marionette/core/rig/compile'
import { evaluate, makeFrame, writePose, type Frame } from '@marionette/core/rig/evaluate'
import { onLive, writeLive } from './live'
import { useHeldSpeeds, writeSpeeds } from './speeds'

export interface StageModel {
  readonly rig: Rig
  readonly frame: Frame
  /** Values of channels as they are seen, by their slots: the pose with what controls and responses add. */
  readonly pose: Float64Array
  /** The pose alone. */
  readonly own: Float64Array
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
  a.controls === b.controls &&
  a.view === b.view &&
  a.canvas === b.canvas &&
  a.reference === b.reference &&
  a.guides === b.guides

/** Whether responses change the points and paints of the same drawings. */
function isSameForm(a: Puppet, b: Puppet): boolean {
  const form = (p: Puppet): string =>
    JSON.stringify((['points', 'paint'] as const).map((what) => [...answeringParts(p, what)].map(([part, ids]) => [part, ...ids]).sort()))
  const hides = (p: Puppet): string =>
    Object.keys(p.pose)
      .filter((address) => address.endsWith('/shown'))
      .join()
  return hides(a) === hides(b) && (a.responses === b.responses || (form(a) === form(b) && showsSame(a, b)))
}

/** Whether the same parts may be shown or hidden by responses. */
function showsSame(a: Puppet, b: Puppet): boolean {
  const shown = ({ responses }: Puppet): string => JSON.stringify(responses.map((r) => [...chosenBy(r)]))
  return shown(a) === shown(b)
}

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
    this.follow(puppet)
    if (this.source !== puppet || this.atRest !== atRest || this.isStale) {
      this.isStale = false
      const { rig, frame, own } = this.model!
      writeSpeeds(frame)
      writePose(rig, atRest ? {} : puppet.pose, own)
      if (!atRest) writeLive(rig, own)
      evaluate(rig, own, frame)
      this.source = puppet
      this.atRest = atRest
    }
    return this.model!
  }

  /** Compiles again what differs from the puppet before. */
  private follow(puppet: Puppet): void {
    if (puppet === this.source) return
    if (this.model && this.source && isSameStructure(puppet, this.source) && isSameForm(puppet, this.source)) {
      if (puppet.responses === this.source.responses) return
      this.model = modelOf(withAnswers(this.model.rig, puppet))
    } else this.model = modelOf(compile(puppet))
    this.source = null
  }
}

function modelOf(rig: Rig): StageModel {
  const frame = makeFrame(rig)
  return { rig, frame, pose: frame.answers, own: new Float64Array(rig.restPose.length) }
}

/** The one model of the open puppet. */
export const stageModel = new StageModelSource()
useHeldSpeeds.subscribe(() => stageModel.refresh())
onLive(() => stageModel.refresh())
