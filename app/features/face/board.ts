/** The board of a face: its moods and sounds as they are seen. */
import { useMemo, useState } from 'react'
import { boardEdits, boardOf } from '@marionette/core/face/expressions'
import type { Puppet, SavedPose } from '@marionette/core/puppet/schema'
import { VISEME_INFO, VISEMES, type Viseme } from '@marionette/core/speech/visemes'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { movedRegion } from '@marionette/core/reports/movers'
import { heldValues } from '@marionette/core/playing/playing'
import { isSameForm, rigOf, useSettled } from '../../pictures/posePictures'
import { useEditor, type Editor } from '../../editor/editor'

export interface BoardItem {
  readonly id: string
  readonly label: string
  /** What it shows where nothing else is posed. */
  readonly values: Readonly<Record<string, number>>
  /** The pose that was kept for it; null where a sound is made of what is known of its shape. */
  readonly pose: SavedPose | null
  /** Null for a mood. */
  readonly viseme: Viseme | null
}

/** Whether sounds do anything: a swap has sets of them, a control is a mouth's, or a sound was kept. */
export const hasSounds = ({ parts, controls, poses }: Pick<Puppet, 'parts' | 'controls' | 'poses'>): boolean =>
  controls.some((c) => c.voice) ||
  Object.values(parts).some((p) => (p.swap?.sets.length ?? 0) > 0) ||
  poses.some((p) => p.face !== null && p.face !== 'mood')

export const moodItems = (puppet: Puppet): BoardItem[] =>
  boardOf(puppet).moods.map((pose) => ({ id: pose.id, label: pose.name, values: pose.values, pose, viseme: null }))

export function soundItems(puppet: Puppet, mood: string): BoardItem[] {
  if (!hasSounds(puppet)) return []
  const still = { ...puppet, pose: {} }
  const kept = new Map(boardOf(puppet).sounds.map((pose) => [pose.face, pose]))
  return VISEMES.map((viseme) => ({
    ...{ id: viseme, label: VISEME_INFO[viseme].label, viseme },
    ...{ values: heldValues(still, viseme, mood), pose: kept.get(viseme) ?? null },
  }))
}

/** Room around what moves, as a share of its size. */
const ROOM = 0.12

/** What pictures of the board show: all that any of them moves. */
export const boardRegion = (editor: Editor, puppet: Puppet, items: readonly BoardItem[]): Bounds | null =>
  movedRegion(
    rigOf(editor, puppet),
    items.map((i) => i.values),
    ROOM,
  )

export interface Board {
  readonly moods: readonly BoardItem[]
  readonly sounds: readonly BoardItem[]
  readonly region: Bounds | null
  /** How many more could be proposed. */
  readonly missing: number
}

const NOTHING: Board = { moods: [], sounds: [], region: null, missing: 0 }

/** The board of the open puppet. Poses and drags leave it as it is. */
export function useBoard(mood: string): Board {
  const editor = useEditor()
  const settled = useSettled()
  const [form, setForm] = useState(settled)
  const now = form && settled && isSameForm(form, settled) ? form : settled
  if (now !== form) setForm(now)
  const poses = settled?.poses
  return useMemo(() => {
    if (!now || !poses) return NOTHING
    const puppet = { ...now, poses }
    const [moods, sounds] = [moodItems(puppet), soundItems(puppet, mood)]
    return { moods, sounds, region: boardRegion(editor, puppet, [...moods, ...sounds]), missing: boardEdits(puppet, 'proposed').length }
  }, [now, poses, mood, editor])
}
