/** Pictures of puppets for the library, drawn by the same renderer as the stage and remembered by revision. */
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
    const key = `${id}/${revision}`
    let png = this.pictures.get(key)
    if (!png) {
      const frame = poseRig(compile(puppet))
      const box = frameBounds(frame) ?? { minX: 0, minY: 0, maxX: puppet.canvas.width, maxY: puppet.canvas.height }
      const wide = Math.max(1, box.maxX - box.minX)
      const high = Math.max(1, box.maxY - box.minY)
      const pad = Math.max(wide, high) * MARGIN
      const region = { minX: box.minX - pad, minY: box.minY - pad, maxX: box.maxX + pad, maxY: box.maxY + pad }
      const width = Math.max(1, Math.round((LONGER_SIDE * wide) / Math.max(wide, high)))
      png = renderPng(await loadCanvasKit(), frame, { width, background: null, region })
      if (this.pictures.size >= REMEMBERED) this.pictures.delete(this.pictures.keys().next().value!)
    }
    this.pictures.delete(key)
    this.pictures.set(key, png)
    return { revision, png }
  }
}
