/** Seeing the puppet through something else than the view that a person has moved to: through its camera. */
import type { CanvasKit, Canvas } from 'canvaskit-wasm'
import type { Affine } from '@marionette/core/kernel/numbers'
import { multiply } from '@marionette/core/maths/geometry/affine'
import type { Editor } from '../editor/editor'

export interface Lens {
  /** From the canvas to the picture, px to px. */
  readonly map: Affine
  /** Size of the picture, px. */
  readonly width: number
  readonly height: number
}

/** What the stage is seen through just now; null for the usual view. */
export type LensNow = (editor: Editor) => Lens | null

/** Room around the picture on the stage, CSS px. */
const ROOM = { beside: 24, above: 44, below: 92 }

/** Where the picture of a lens is on a stage, CSS px. */
export function pictureBox({ width, height }: Lens, stage: { width: number; height: number }): { x: number; y: number; scale: number } {
  const [wide, high] = [stage.width - 2 * ROOM.beside, stage.height - ROOM.above - ROOM.below]
  const scale = Math.max(0.01, Math.min(wide / width, high / height))
  return { scale, x: (stage.width - width * scale) / 2, y: ROOM.above + (high - height * scale) / 2 }
}

/** Lets a canvas show what a lens sees, and nothing beside it. */
export function lookThrough(CK: CanvasKit, canvas: Canvas, lens: Lens, stage: { width: number; height: number }, ratio: number): void {
  const { x, y, scale } = pictureBox(lens, stage)
  const [a, b, c, d, e, f] = multiply([scale * ratio, 0, 0, scale * ratio, x * ratio, y * ratio], lens.map)
  canvas.clipRect(CK.XYWHRect(x * ratio, y * ratio, lens.width * scale * ratio, lens.height * scale * ratio), CK.ClipOp.Intersect, true)
  canvas.concat([a, c, e, b, d, f, 0, 0, 1])
}
