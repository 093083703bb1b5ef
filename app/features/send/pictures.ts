/** Pictures of whole puppets, drawn in the browser. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import type { Camera } from '@marionette/core/staging/records'
import { throughCamera } from '@marionette/render/camera'
import { renderPng } from '@marionette/render/png'
import { loadSkia } from '../../skia/loadSkia'
import { loadAssets } from '../../editor/assets'
import type { Editor } from '../../editor/editor'

const USUAL_WIDTH = 320

/** PNG of a puppet in its present pose: the whole canvas, or what a camera sees. */
export async function drawPicture(
  editor: Editor,
  puppet: Puppet,
  width = USUAL_WIDTH,
  background: string | null = null,
  camera: Camera | null = null,
): Promise<Uint8Array> {
  const [CK, assets] = await Promise.all([loadSkia(), loadAssets(editor, paintedAssetsOf(puppet))])
  return renderPng(CK, poseRig(compile(puppet)), {
    width,
    background,
    ...(camera ? throughCamera(camera) : {}),
    assets: (hash) => assets.get(hash),
  })
}
