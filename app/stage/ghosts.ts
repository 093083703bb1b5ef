/** Ghosts: other moments of the puppet that are drawn under the one on the stage. */
import type { CanvasKit, Canvas } from 'canvaskit-wasm'
import type { Simulation } from '@marionette/core/kernel/stage'
import { evaluate, makeFrame } from '@marionette/core/puppet/evaluate'
import type { Frame } from '@marionette/core/puppet/frame'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { Painter } from '@marionette/render/painter'
import { paintTinted, type Tint } from '@marionette/render/tinted'
import { assetSource } from '../editor/assets'
import type { Editor } from '../editor/editor'
import type { StageModel } from '../editor/stageModel'

export interface Ghost extends Tint {
  /** Writes its pose, which holds the rest, and tells its time. */
  readonly write: (pose: Float64Array) => number
  /** What moves by itself then. */
  readonly simulated: (rig: Rig) => Simulation | null
}

/** Says which ghosts show beside what is on the stage, the farthest first. */
export type Ghosts = (editor: Editor, model: StageModel) => readonly Ghost[]

/** Draws ghosts with a painter and a frame of their own, so that the picture on the stage keeps what it has made. */
export class GhostPainter {
  private painter: Painter | null = null
  private frame: Frame | null = null
  private pose = new Float64Array(0)

  constructor(
    private readonly CK: CanvasKit,
    private readonly editor: Editor,
  ) {}

  paint(canvas: Canvas, rig: Rig, ghosts: readonly Ghost[], bounds: Bounds): void {
    if (ghosts.length === 0) return this.dispose()
    this.painter ??= new Painter(this.CK, (hash) => assetSource(this.editor, hash))
    if (this.frame?.rig !== rig) {
      this.frame = makeFrame(rig)
      this.pose = new Float64Array(rig.restPose.length)
    }
    for (const ghost of ghosts) {
      this.pose.set(rig.restPose)
      const time = ghost.write(this.pose)
      paintTinted(
        this.CK,
        canvas,
        this.painter,
        evaluate(rig, this.pose, this.frame, { time, simulation: ghost.simulated(rig) }),
        ghost,
        bounds,
      )
    }
  }

  dispose(): void {
    this.painter?.dispose()
    this.painter = null
    this.frame = null
  }
}
