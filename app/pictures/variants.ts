/** Small pictures of what a part could look like, around what they have in common. */
import { useEffect, useState } from 'react'
import type { Puppet } from '@marionette/core/puppet/schema'
import { partsBelow } from '@marionette/core/parts/tree'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { frameBounds } from '@marionette/core/puppet/probe'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { pictureOf, rigOf } from './posePictures'
import { useArrivals } from '../editor/assets'
import { useEditor, type Editor } from '../editor/editor'

/** What pictures of parts show: all of them, with some of what lies around. */
export function regionAround(editor: Editor, puppet: Puppet, parts: readonly string[]): Bounds | null {
  const ids = new Set(parts.flatMap((id) => partsBelow(puppet, id).map((p) => p.id)))
  const box = frameBounds(poseRig(rigOf(editor, puppet), {}), ids)
  if (!box) return null
  const room = ROOM * Math.max(box.maxX - box.minX, box.maxY - box.minY)
  return { minX: box.minX - room, minY: box.minY - room, maxX: box.maxX + room, maxY: box.maxY + room }
}

/** URLs of pictures of variants of a puppet, of one region; empty until they are drawn. `key` tells when they differ. */
export function useVariants(key: string, variants: () => { puppet: Puppet; region: Bounds | null }[]): readonly string[] {
  const editor = useEditor()
  const [urls, setUrls] = useState<readonly string[]>([])
  const arrivals = useArrivals()
  useEffect(() => {
    let isGone = false
    let made: string[] = []
    const timer = setTimeout(() => {
      const draw = async (): Promise<void> => {
        const blobs: (Blob | null)[] = []
        for (const { puppet, region } of variants()) blobs.push(await pictureOf(editor, puppet, {}, region))
        if (!isGone) setUrls((made = blobs.map((b) => (b ? URL.createObjectURL(b) : ''))))
      }
      void draw()
    }, 100)
    return () => {
      isGone = true
      clearTimeout(timer)
      const old = made
      setTimeout(() => old.forEach((url) => url && URL.revokeObjectURL(url)), 2000)
    }
    // The key stands for what the variants are made of.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, arrivals])
  return urls
}

/** Pictures of what a face could show: an alternate, or a part with another mask. */

/** Room around a part, as a share of its size. */
export const ROOM = 0.3
