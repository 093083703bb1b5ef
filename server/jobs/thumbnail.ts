/** The picture of a puppet for the library, drawn by the same renderer as the stage. */
import { readPuppet } from '@marionette/core/puppet/migrate'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPng } from '@marionette/render/png'

const LONGER_SIDE = 720
const MARGIN = 0.03

/** PNG of a document's present pose, cut to what it shows. Throws what reading and drawing throw. */
export async function drawThumbnail(document: string, assets: ReadonlyMap<string, Uint8Array>): Promise<Uint8Array> {
  const puppet = readPuppet(JSON.parse(document))
  const frame = poseRig(compile(puppet))
  const box = frameBounds(frame) ?? { minX: 0, minY: 0, maxX: puppet.canvas.width, maxY: puppet.canvas.height }
  const wide = Math.max(1, box.maxX - box.minX)
  const high = Math.max(1, box.maxY - box.minY)
  const pad = Math.max(wide, high) * MARGIN
  const region = { minX: box.minX - pad, minY: box.minY - pad, maxX: box.maxX + pad, maxY: box.maxY + pad }
  const width = Math.max(1, Math.round((LONGER_SIDE * wide) / Math.max(wide, high)))
  return renderPng(await loadCanvasKit(), frame, { width, background: null, region, assets: (hash) => assets.get(hash) })
}
