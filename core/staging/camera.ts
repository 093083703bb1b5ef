/** What a camera sees. */
import type { Affine, Vec } from '../kernel/numbers'
import { apply, invert, toRadians, IDENTITY } from '../maths/geometry/affine'
import type { Camera } from './records'

/** A camera that sees a canvas as it is. */
export const newCamera = ({ width, height }: { readonly width: number; readonly height: number }): Camera => ({
  ...{ width, height, x: width / 2, y: height / 2, zoom: 1, angle: 0 },
})

/**
 * The map from the canvas to the picture that a camera takes, which is as large as its frame: px to px. What is in the middle of the frame
 * comes to the middle of the picture, `zoom` times as large, turned against the camera.
 */
export function cameraMap({ width, height, x, y, zoom, angle }: Camera): Affine {
  // A camera that turns counter-clockwise sees everything turned clockwise; y points down.
  const turn = toRadians(angle)
  const [cos, sin] = [zoom * Math.cos(turn), zoom * Math.sin(turn)]
  return [cos, sin, -sin, cos, width / 2 - (cos * x - sin * y), height / 2 - (sin * x + cos * y)]
}

/** The corners of its frame on the canvas, from the upper left clockwise. */
export function cameraCorners(camera: Camera): Vec[] {
  const back = invert(cameraMap(camera)) ?? IDENTITY
  const { width, height } = camera
  return [
    { x: 0, y: 0 },
    { x: width, y: 0 },
    { x: width, y: height },
    { x: 0, y: height },
  ].map((corner) => apply(back, corner))
}
