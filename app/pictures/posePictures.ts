/** Small pictures of the puppet in poses, drawn while the page is idle and remembered by what they show. */
import { useEffect, useState } from 'react'
import type { Puppet, SavedPose } from '@marionette/core/puppet/schema'
import { compile } from '@marionette/core/puppet/compile'
import { isSameBut } from '@marionette/core/puppet/touched'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import { squareAround, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { Painter } from '@marionette/render/painter'
import { renderPng } from '@marionette/render/png'
import { assetSource, onAsset, useArrivals } from '../editor/assets'
import { loadSkia } from '../skia/loadSkia'
import { useDocument } from '../editor/document'
import { heldMoment, type Speeds } from '../editor/speeds'
import type { Rig } from '@marionette/core/puppet/rig'
import { useEditor, editorState, type Editor } from '../editor/editor'

const SIDE = 124
const NONE: Speeds = new Map()

interface Own {
  last: { readonly puppet: Puppet; readonly rig: Rig } | null
  /** What draws pictures as long as some are waiting: it keeps decoded textures from one to the next. */
  painter: Painter | null
  waiting: number
  turns: Promise<unknown>
}

const stateOf = editorState((editor) => {
  const own: Own = { last: null, painter: null, waiting: 0, turns: Promise.resolve() }
  // What was drawn without its textures is made anew.
  onAsset(editor, () => dropPainter(own))
  return own
})

/** Whether two puppets differ in nothing but what is posed and kept. */
export const isSameForm = (a: Puppet, b: Puppet): boolean => isSameBut(a, b, 'pose', 'poses', 'clips')

/** A rig of a puppet, kept until something else than its pose differs. */
export function rigOf(editor: Editor, puppet: Puppet): Rig {
  const own = stateOf(editor)
  if (!own.last || !isSameForm(own.last.puppet, puppet)) own.last = { puppet, rig: compile(puppet) }
  return own.last.rig
}

/** A picture of a puppet with channels at values, of a region or of all that is seen; null where nothing is, or it is wanted no more. */
export async function pictureOf(
  editor: Editor,
  puppet: Puppet,
  values: Readonly<Record<string, number>>,
  region: Bounds | null = null,
  speeds: Speeds = NONE,
  isWanted: () => boolean = () => true,
): Promise<Blob | null> {
  const own = stateOf(editor)
  const CK = await loadSkia()
  return inTurn(editor, () => {
    if (!isWanted()) return null
    const rig = rigOf(editor, puppet)
    const frame = makeFrame(rig)
    evaluate(rig, writePose(rig, values, new Float64Array(rig.restPose.length)), frame, heldMoment(editor, rig, speeds))
    const box = region ?? frameBounds(frame)
    if (!box) return null
    own.painter ??= new Painter(CK, (hash) => assetSource(editor, hash))
    const png = renderPng(CK, frame, { width: SIDE, background: null, region: squareAround(box, 1.04), painter: own.painter })
    return new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })
  })
}

function dropPainter(own: Own): void {
  own.painter?.dispose()
  own.painter = null
}

/** Draws one picture after the other, and lets the page go on between two. */
function inTurn<T>(editor: Editor, draw: () => T): Promise<T> {
  const own = stateOf(editor)
  own.waiting++
  const drawn = own.turns.then(() => new Promise((resolve) => setTimeout(resolve))).then(draw)
  own.turns = drawn
    .catch(() => {})
    .then(() => {
      if (--own.waiting === 0) dropPainter(own)
    })
  return drawn
}

/** The open puppet as it is between gestures: while something is dragged, as it was before. */
export const useSettled = (): Puppet | null => useDocument((s) => (s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))

/** URL of a picture of some values; empty until it is drawn. */
export function usePicture(values: Readonly<Record<string, number>>, region: Bounds | null, key: string, speeds: Speeds = NONE): string {
  const editor = useEditor()
  const settled = useSettled()
  const [url, setUrl] = useState('')
  const arrivals = useArrivals()
  const form = settled && `${key}`
  const parts = settled?.parts
  const responses = settled?.responses
  const drawings = settled?.drawings
  useEffect(() => {
    if (!settled) return
    let isGone = false
    let made = ''
    const timer = setTimeout(() => {
      void pictureOf(editor, settled, values, region, speeds, () => !isGone).then((blob) => {
        if (isGone || !blob) return
        setUrl((made = URL.createObjectURL(blob)))
      })
    }, 120)
    return () => {
      isGone = true
      clearTimeout(timer)
      if (made) setTimeout(() => URL.revokeObjectURL(made), 2000)
    }
    // The pose of the moment does not show in a picture of other values.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form, parts, responses, drawings, arrivals])
  return url
}

export const usePosePicture = (pose: SavedPose): string => usePicture(pose.values, null, JSON.stringify(pose.values))
