/** Pose pins on the stage: a square head, turned on its corner, with a halo. */
import type { Vec } from '@marionette/core/puppet/schema'
import { pinPlace, type PosePin } from '@marionette/core/posing/pins'
import { posePinsNow } from './posePins'
import type { StageModel } from '../../editor/stageModel'
import { toScreen, type Camera } from '../../stage/camera'
import type { Editor } from '../../editor/editor'

const HEAD = 5.5

/** The pin under a spot, within some canvas px. */
export function posePinUnder(editor: Editor, { frame }: StageModel, at: Vec, reach: number): PosePin | null {
  const near = (pin: PosePin): number => {
    const place = pinPlace(frame, pin)
    return place ? Math.hypot(place.x - at.x, place.y - at.y) : Infinity
  }
  return posePinsNow(editor).find((pin) => near(pin) <= reach) ?? null
}

export function drawPosePins(
  editor: Editor,
  pen: CanvasRenderingContext2D,
  camera: Camera,
  { frame }: StageModel,
  colour: string,
  halo: string,
): void {
  for (const pin of posePinsNow(editor)) {
    const place = pinPlace(frame, pin)
    if (!place) continue
    const at = toScreen(camera, place)
    pen.save()
    pen.translate(at.x, at.y)
    pen.rotate(Math.PI / 4)
    pen.fillStyle = halo
    pen.fillRect(-HEAD - 2, -HEAD - 2, 2 * HEAD + 4, 2 * HEAD + 4)
    pen.fillStyle = colour
    pen.fillRect(-HEAD, -HEAD, 2 * HEAD, 2 * HEAD)
    pen.fillStyle = halo
    pen.fillRect(-1.5, -1.5, 3, 3)
    pen.restore()
  }
}
