/** Small pictures of parts and bones for the roster, drawn while the page is idle and remembered by what they show. */
import { useEffect } from 'react'
import type { Puppet } from '@marionette/core/puppet/schema'
import { partPath, partsBelow, restBounds } from '@marionette/core/parts/tree'
import { squareAround, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { renderPng } from '@marionette/render/png'
import { Painter } from '@marionette/render/painter'
import { assetSource, onAsset } from '../editor/assets'
import { useDocument } from '../editor/document'
import { StageModelSource } from '../editor/stageModel'
import { loadSkia } from '../skia/loadSkia'
import { useEditor, editorState, editorStore, type Editor } from '../editor/editor'
import { drawingBy, pictureBy } from '@marionette/core/artwork/art'
import { sure } from '@marionette/core/kernel/sure'

const SIDE = 64

interface Thumb {
  readonly url: string
  /** The objects that the picture was drawn from. */
  readonly from: readonly unknown[]
}

const useThumbs = editorStore<{ thumbs: Readonly<Record<string, Thumb>>; arrivals: number }>(() => ({ thumbs: {}, arrivals: 0 }))

interface Own {
  readonly model: StageModelSource
  painter: Painter | null
  wanted: Set<string>
  isBusy: boolean
}

const stateOf = editorState((editor) => {
  const own: Own = { model: new StageModelSource(editor), painter: null, wanted: new Set<string>(), isBusy: false }
  // A picture that was drawn without the raster pictures in it is drawn anew when they are here.
  onAsset(editor, () => {
    own.painter?.refresh()
    useThumbs.of(editor).setState((s) => ({ arrivals: s.arrivals + 1 }))
  })
  return own
})

const keyOf = (kind: 'part' | 'bone', id: string): string => `${kind}/${id}`

/** What a picture depends on. */
function sourcesOf(editor: Editor, puppet: Puppet, kind: 'part' | 'bone', id: string): readonly unknown[] {
  if (kind === 'bone')
    return [useThumbs.of(editor).getState().arrivals, puppet.bones[id]?.start, puppet.bones[id]?.end, puppet.drawings, puppet.pictures]
  return partsBelow(puppet, id).flatMap((p) => [
    pictureBy(puppet, p.merged ?? p.art[puppet.view] ?? '') && useThumbs.of(editor).getState().arrivals,
    pictureBy(puppet, p.merged ?? p.art[puppet.view] ?? ''),
    p.home,
    p.visible,
    p.opacity,
    p.masks,
    p.blend,
    p.effect,
    drawingBy(puppet, p.art[puppet.view] ?? ''),
  ])
}

function regionOf(puppet: Puppet, kind: 'part' | 'bone', id: string): Bounds | null {
  if (kind === 'part') {
    const box = restBounds(puppet, id)
    return box && squareAround(box, 1.12)
  }
  const bone = puppet.bones[id]
  if (!bone) return null
  const { start, end } = bone
  const box = {
    minX: Math.min(start.x, end.x),
    maxX: Math.max(start.x, end.x),
    minY: Math.min(start.y, end.y),
    maxY: Math.max(start.y, end.y),
  }
  return squareAround(box, 1.35)
}

const unswapped = new WeakMap<Puppet, Puppet>()
const unswappedParts = new WeakMap<Puppet['parts'], Puppet['parts']>()

/** A puppet whose swaps show all of their alternates: each has a picture, whichever shows. */
function withoutSwaps(puppet: Puppet): Puppet {
  let parts = unswappedParts.get(puppet.parts)
  if (!parts) {
    parts = Object.fromEntries(Object.entries(puppet.parts).map(([id, p]) => [id, p.swap ? { ...p, swap: null } : p]))
    unswappedParts.set(puppet.parts, parts)
  }
  const plain = unswapped.get(puppet) ?? { ...puppet, parts }
  unswapped.set(puppet, plain)
  return plain
}

/** Whether a part lies in a swap, and may not show. */
const isAlternate = (puppet: Puppet, part: string): boolean =>
  partPath(puppet, part)
    .slice(0, -1)
    .some((p) => p.swap !== null)

async function drawOne(editor: Editor, key: string): Promise<void> {
  const own = stateOf(editor)
  const { puppet } = useDocument.of(editor).getState()
  const [kind, id] = key.split('/') as ['part' | 'bone', string]
  if (!puppet || !(kind === 'part' ? puppet.parts[id] : puppet.bones[id])) return
  const region = regionOf(puppet, kind, id)
  const from = sourcesOf(editor, puppet, kind, id)
  if (!region) return put(editor, key, { url: '', from })
  const CK = await loadSkia()
  const { rig, frame } = own.model.get(kind === 'part' && isAlternate(puppet, id) ? withoutSwaps(puppet) : puppet, true)
  const only = kind === 'part' ? new Set(partsBelow(puppet, id).map((p) => sure(rig.parts.index.get(p.id)))) : undefined
  own.painter ??= new Painter(CK, (hash) => assetSource(editor, hash))
  const png = renderPng(CK, frame, { width: SIDE, background: null, region, painter: own.painter, ...(only ? { only } : {}) })
  put(editor, key, { url: URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })), from })
}

function put(editor: Editor, key: string, thumb: Thumb): void {
  const { thumbs } = useThumbs.of(editor).getState()
  if (thumbs[key]?.url) URL.revokeObjectURL(thumbs[key].url)
  useThumbs.of(editor).setState({ thumbs: { ...thumbs, [key]: thumb } })
}

/** Runs work when the page is idle, or soon anyway; it is told how many milliseconds it may take. */
const whenIdle = (work: (budget: number) => void): void => {
  if ('requestIdleCallback' in window) requestIdleCallback((d) => work(Math.max(d.timeRemaining(), 6)), { timeout: 80 })
  else setTimeout(() => work(10), 16)
}

/** What the painter holds is as large as the pictures it drew; the next small picture makes what it needs anew. */
function releasePainter(editor: Editor): void {
  const own = stateOf(editor)
  own.painter?.dispose()
  own.painter = null
}

function work(editor: Editor): void {
  const own = stateOf(editor)
  if (own.isBusy || own.wanted.size === 0) return
  own.isBusy = true
  whenIdle((budget) => {
    void drawSome(editor, performance.now() + budget).finally(() => {
      own.isBusy = false
      if (own.wanted.size === 0) releasePainter(editor)
      work(editor)
    })
  })
}

/** Draws wanted pictures until the time is up, at least one. */
async function drawSome(editor: Editor, until: number): Promise<void> {
  const own = stateOf(editor)
  do {
    const key = own.wanted.values().next().value
    if (key === undefined) return
    own.wanted.delete(key)
    await drawOne(editor, key).catch(() => undefined)
  } while (performance.now() < until)
}

/** Whether a part or bone shows nothing that could be drawn. */
export const useIsBlank = (kind: 'part' | 'bone', id: string): boolean => useThumbs((s) => s.thumbs[keyOf(kind, id)]?.url === '')

/** URL of the picture of a part or bone; empty until it is drawn. */
export function useThumbnail(kind: 'part' | 'bone', id: string): string {
  const editor = useEditor()
  const key = keyOf(kind, id)
  const url = useThumbs((s) => s.thumbs[key]?.url ?? '')
  const arrivals = useThumbs((s) => s.arrivals)
  const settled = useDocument((s) => (s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))
  useEffect(() => {
    if (!settled || !(kind === 'part' ? settled.parts[id] : settled.bones[id])) return
    const now = sourcesOf(editor, settled, kind, id)
    const known = useThumbs.of(editor).getState().thumbs[key]?.from
    if (known && known.length === now.length && known.every((v, i) => v === now[i])) return
    stateOf(editor).wanted.add(key)
    work(editor)
  }, [settled, kind, id, key, arrivals, editor])
  return url
}
