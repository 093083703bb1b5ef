/** Pictures of puppets for the library, drawn by the same renderer as the stage and remembered by revision. */
import type { Puppet } from '@marionette/core/document/schema'
import { assetsOf } from '@marionette/core/document/tree'
import { compile } from '@marionette/core/rig/compile'
import { poseRig } from '@marionette/core/rig/evaluate'
import { frameBounds } from '@marionette/core/rig/probe'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPng } from '@marionette/render/png'
import type { PuppetStore } from './puppetStore'

const REMEMBERED = 64
const LONGER_SIDE = 720
const MARGIN = 0.03

export class Thumbnails {
  private readonly pictures = new Map<string, Uint8Array>()

  constructor(private readonly store: PuppetStore) {}

  /** PNG of the puppet's present pose, cut to what it shows. */
  async get(id: string): Promise<{ revision: number; png: Uint8Array }> {
    const { puppet, revision } = await this.store.get(id)
    return { revision, png: await this.of(`${id}/${revision}`, async () => puppet) }
  }

  /** PNG of an earlier version. */
  async ofRevision(id: string, revision: number): Promise<Uint8Array> {
    return this.of(`${id}/${revision}`, () => this.store.revisions.get(id, revision))
  }

  private async of(key: string, load: () => Promise<Puppet>): Promise<Uint8Array> {
    let png = this.pictures.get(key)
    if (!png) {
      png = await this.draw(await load())
      if (this.pictures.size >= REMEMBERED) this.pictures.delete(this.pictures.keys().next().value!)
    }
    this.pictures.delete(key)
    this.pictures.set(key, png)
    return png
  }

  private async draw(puppet: Puppet): Promise<Uint8Array> {
    const frame = poseRig(compile(puppet))
    const box = frameBounds(frame) ?? { minX: 0, minY: 0, maxX: puppet.canvas.width, maxY: puppet.canvas.height }
    const wide = Math.max(1, box.maxX - box.minX)
    const high = Math.max(1, box.maxY - box.minY)
    const pad = Math.max(wide, high) * MARGIN
    const region = { minX: box.minX - pad, minY: box.minY - pad, maxX: box.maxX + pad, maxY: box.maxY + pad }
    const width = Math.max(1, Math.round((LONGER_SIDE * wide) / Math.max(wide, high)))
    const assets = await this.store.assets.read(assetsOf(puppet))
    return renderPng(await loadCanvasKit(), frame, { width, background: null, region, assets: (hash) => assets.get(hash) })
  }
}
