/** Small pictures of single parts, of the open puppet or of one that is only compared with. */
import type { PartId } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { partsBelow, restBounds } from '@marionette/core/parts/tree'
import { squareAround } from '@marionette/core/maths/geometry/bounds'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { Painter } from '@marionette/render/painter'
import { renderPng } from '@marionette/render/png'
import { loadSkia } from '../../skia/loadSkia'
import { sure } from '@marionette/core/kernel/sure'

const SIDE = 112
/** Parts drawn before the page gets a turn. */
const AT_ONCE = 6

/** URLs of pictures by part, to be revoked by the caller; parts that show nothing are left out. */
export async function drawParts(
  puppet: Puppet,
  parts: readonly PartId[],
  assets: ReadonlyMap<string, Uint8Array>,
): Promise<Map<PartId, string>> {
  const CK = await loadSkia()
  const frame = poseRig(compile(puppet), {})
  const painter = new Painter(CK, (hash) => assets.get(hash))
  const out = new Map<PartId, string>()
  for (const [i, id] of parts.entries()) {
    const box = puppet.parts[id] ? restBounds(puppet, id) : null
    if (!box) continue
    const region = squareAround(box, 1.1)
    const only = new Set(partsBelow(puppet, id).map((p) => sure(frame.rig.parts.index.get(p.id))))
    const png = renderPng(CK, frame, { width: SIDE, background: null, region, only, painter })
    out.set(id, URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })))
    if (i % AT_ONCE === AT_ONCE - 1) await new Promise((done) => setTimeout(done))
  }
  painter.dispose()
  return out
}
