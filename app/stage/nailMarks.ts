/** Nails on the stage: a square head, turned on its corner, with a halo. */
import type { Vec } from '@marionette/core/document/schema'
import { nailPlace, type Nail } from '@marionette/core/rig/nails'
import { nailsNow } from '../state/nails'
import type { StageModel } from '../state/stageModel'
import { toScreen, type Camera } from './camera'

const HEAD = 5.5

/** The nail under a spot, within some canvas px. */
export function nailUnder({ frame }: StageModel, at: Vec, reach: number): Nail | null {
  const near = (nail: Nail): number => {
    const place = nailPlace(frame, nail)
    return place ? Math.hypot(place.x - at.x, place.y - at.y) : Infinity
  }
  return nailsNow().find((nail) => near(nail) <= reach) ?? null
}

export function drawNails(pen: CanvasRenderingContext2D, camera: Camera, { frame }: StageModel, colour: string, halo: string): void {
  for (const nail of nailsNow()) {
    const place = nailPlace(frame, nail)
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
