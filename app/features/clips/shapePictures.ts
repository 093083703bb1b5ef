/** Pictures of the mouth shapes of the open puppet, one for each. */
import { useEffect, useState } from 'react'
import { emptyBounds, isEmpty, unite, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { partsBelow } from '@marionette/core/parts/tree'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { matchWords } from '@marionette/core/roles/match'
import { wordsOf } from '@marionette/core/roles/words'
import { VISEMES, type Viseme } from '@marionette/core/speech/visemes'
import { useArrivals } from '../../editor/assets'
import { useEditor, type Editor } from '../../editor/editor'
import { isSameForm, pictureOf, rigOf, useSettled } from '../../pictures/posePictures'
import { boardRegion, soundItems, type BoardItem } from '../face/board'

export type ShapePictures = Partial<Record<Viseme, string>>

/** Room around a mouth, as a share of its size. */
const ROOM = 0.3

/** Where the mouth is, whatever it says; null where none is known by its role or its name. */
function mouthRegion(editor: Editor, puppet: Puppet, items: readonly BoardItem[]): Bounds | null {
  const isMouth = ({ role, name }: Part): boolean => (role ?? matchWords(wordsOf(name).words)?.spec.id) === 'mouth'
  const mouth = partsBelow(puppet, puppet.root).find(isMouth)
  if (!mouth) return null
  const parts = new Set(partsBelow(puppet, mouth.id).map(({ id }) => id))
  const rig = rigOf(editor, puppet)
  const box = emptyBounds()
  for (const { values } of items) unite(box, frameBounds(poseRig(rig, values), parts) ?? emptyBounds())
  if (isEmpty(box)) return null
  const out = emptyBounds()
  unite(out, box, ROOM * Math.max(box.maxX - box.minX, box.maxY - box.minY))
  return out
}

/**
 * Addresses of pictures by their shapes, as far as they are drawn.
 *
 * @param mood name of the set of mouth shapes
 */
export function useShapePictures(mood: string): ShapePictures {
  const editor = useEditor()
  const settled = useSettled()
  const arrivals = useArrivals()
  const [form, setForm] = useState(settled)
  const [pictures, setPictures] = useState<ShapePictures>({})
  const now = form && settled && isSameForm(form, settled) ? form : settled
  if (now !== form) setForm(now)
  useEffect(() => {
    if (!now) return
    let isGone = false
    const made: string[] = []
    const items = soundItems(now, mood)
    const draw = async (): Promise<void> => {
      const region = items.length > 0 ? (mouthRegion(editor, now, items) ?? boardRegion(editor, now, items)) : null
      const drawn: ShapePictures = {}
      for (const viseme of VISEMES) {
        const item = items.find((i) => i.viseme === viseme)
        const blob = item && region ? await pictureOf(editor, now, item.values, region, undefined, () => !isGone) : null
        if (isGone) return
        if (blob) made.push((drawn[viseme] = URL.createObjectURL(blob)))
      }
      setPictures(drawn)
    }
    const timer = setTimeout(() => void draw(), 120)
    return () => {
      isGone = true
      clearTimeout(timer)
      // Those that are shown go once others take their place.
      setTimeout(() => made.forEach((url) => URL.revokeObjectURL(url)), 2000)
    }
  }, [editor, now, mood, arrivals])
  return pictures
}
