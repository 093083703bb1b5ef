/** Small pictures of the puppet in poses, drawn while the page is idle and remembered by what they show. */
import { useEffect, useState } from 'react'
import type { Puppet, SavedPose } from '@marionette/core/document/schema'
import { compile, type Rig } from '@marionette/core/rig/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/rig/evaluate'
import { frameBounds } from '@marionette/core/rig/probe'
import { squareAround, type Bounds } from '@marionette/core/geometry/bounds'
import { Painter } from '@marionette/render/painter'
import { renderPng } from '@marionette/render/png'
import { assetSource, onAsset, useArrivals } from '../state/assets'
import { loadSkia } from '../stage/loadSkia'
import { useDocument } from '../state/document'
import { writeSpeeds, type Speeds } from '../state/speeds'

const SIDE = 124
const NONE: Speeds = new Map()

let last: { readonly puppet: Puppet; readonly rig: Rig } | null = null

/** Whether two puppets differ in nothing but what is posed and kept. */
export const isSameForm = (a: Puppet, b: Puppet): boolean =>
  (Object.keys(a) as (keyof Puppet)[]).every((k) => k === 'pose' || k === 'poses' || a[k] === b[k])

/** A rig of a puppet, kept until something else than its pose differs. */
export function rigOf(puppet: Puppet): Rig {
  if (!last || !isSameForm(last.puppet, puppet)) last = { puppet, rig: compile(puppet) }
  return last.rig
}

/** A picture of a puppet with channels at values, of a region or of all that is seen; null where nothing is, or it is wanted no more. */
export async function pictureOf(
  puppet: Puppet,
  values: Readonly<Record<string, number>>,
  region: Bounds | null = null,
  speeds: Speeds = NONE,
  isWanted: () => boolean = () => true,
): Promise<Blob | null> {
  const CK = await loadSkia()
  return inTurn(() => {
    if (!isWanted()) return null
    const rig = rigOf(puppet)
    const frame = makeFrame(rig)
    writeSpeeds(frame, speeds)
    evaluate(rig, writePose(rig, values, new Float64Array(rig.restPose.length)), frame)
    const box = region ?? frameBounds(frame)
    if (!box) return null
    painter ??= new Painter(CK, assetSource)
    const png = renderPng(CK, frame, { width: SIDE, background: null, region: squareAround(box, 1.04), painter })
    return new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })
  })
}

/** What draws pictures as long as some are waiting: it keeps decoded textures from one to the next. */
let painter: Painter | null = null
let waiting = 0
let turns: Promise<unknown> = Promise.resolve()

function dropPainter(): void {
  painter?.dispose()
  painter = null
}
// What was drawn without its textures is made anew.
onAsset(dropPainter)

/** Draws one picture after the other, and lets the page go on between two. */
function inTurn<T>(draw: () => T): Promise<T> {
  waiting++
  const drawn = turns.then(() => new Promise((resolve) => setTimeout(resolve))).then(draw)
  turns = drawn
    .catch(() => {})
    .then(() => {
      if (--waiting === 0) dropPainter()
    })
  return drawn
}

/** The open puppet as it is between gestures: while something is dragged, as it was before. */
export const useSettled = (): Puppet | null => useDocument((s) => (s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))

/** URL of a picture of some values; empty until it is drawn. */
export function usePicture(values: Readonly<Record<string, number>>, region: Bounds | null, key: string, speeds: Speeds = NONE): string {
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
      void pictureOf(settled, values, region, speeds, () => !isGone).then((blob) => {
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
