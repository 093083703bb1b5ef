/** Pictures of whole puppets, drawn in the browser. */
import type { Puppet } from '@marionette/core/document/schema'
import { assetsOf } from '@marionette/core/document/tree'
import { compile } from '@marionette/core/rig/compile'
import { poseRig } from '@marionette/core/rig/evaluate'
import { renderPng } from '@marionette/render/png'
import { loadSkia } from '../stage/loadSkia'
import { loadAssets } from '../state/assets'

const USUAL_WIDTH = 320

/** PNG of a puppet in its present pose, the whole canvas. */
export async function drawPicture(puppet: Puppet, width = USUAL_WIDTH, background: string | null = null): Promise<Uint8Array> {
  const [CK, assets] = await Promise.all([loadSkia(), loadAssets(assetsOf(puppet))])
  return renderPng(CK, poseRig(compile(puppet)), { width, background, assets: (hash) => assets.get(hash) })
}
