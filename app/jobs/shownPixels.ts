/** What a part shows, as pixels, inside of a worker. */
import type { CanvasKit } from 'canvaskit-wasm'
import type { Affine } from '@marionette/core/kernel/numbers'
import { sure } from '@marionette/core/kernel/sure'
import { multiply } from '@marionette/core/maths/geometry/affine'
import { drawnParts } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import type { Puppet } from '@marionette/core/puppet/schema'
import { renderPixels } from '@marionette/render/pixels'

/** What a part shows as it is posed, as pixels, with the map from them to the canvas; null where nothing is shown. */
export function shownPixels(CK: CanvasKit, puppet: Puppet, part: string, assets: ReadonlyMap<string, Uint8Array>, mostScale: number) {
  const frame = poseRig(compile(puppet), puppet.pose)
  const parts = new Set(drawnParts(puppet, part).map((p) => p.id))
  const box = frameBounds(frame, parts)
  if (!box) return null
  const region = {
    minX: Math.floor(box.minX) - 2,
    minY: Math.floor(box.minY) - 2,
    maxX: Math.ceil(box.maxX) + 2,
    maxY: Math.ceil(box.maxY) + 2,
  }
  const only = new Set([...parts].map((id) => sure(frame.rig.parts.index.get(id))))
  const scale = Math.min(mostScale, 4096 / Math.max(region.maxX - region.minX, region.maxY - region.minY))
  const pixels = renderPixels(CK, frame, { region, scale, only, assets: (hash) => assets.get(hash) })
  const toCanvas: Affine = multiply([1, 0, 0, 1, region.minX, region.minY], [1 / scale, 0, 0, 1 / scale, 0, 0])
  const toPixels: Affine = multiply([scale, 0, 0, scale, 0, 0], [1, 0, 0, 1, -region.minX, -region.minY])
  return { pixels, scale, toCanvas, toPixels }
}
