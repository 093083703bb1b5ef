/** Small pictures of parts and bones for the roster, drawn while the page is idle and remembered by what they show. */
import { useEffect } from 'react'
import { create } from 'zustand'
import type { Puppet } from '@marionette/core/document/schema'
import { partPath, partsBelow, restBounds } from '@marionette/core/document/tree'
import { squareAround, type Bounds } from '@marionette/core/geometry/bounds'
import { renderPng } from '@marionette/render/png'
import { Painter } from '@marionette/render/painter'
import { assetSource, onAsset } from '../state/assets'
import { useDocument } from '../state/document'
import { StageModelSource } from '../state/stageModel'
import { loadSkia } from '../stage/loadSkia'

const SIDE = 64

interface Thumb {
  readonly url: string
  /** The objects that the picture was drawn from. */
  readonly from: readonly unknown[]
}

const useThumbs = create<{ thumbs: Readonly<Record<string, Thumb>>; arrivals: number }>(() => ({ thumbs: {}, arrivals: 0 }))

// A picture that was drawn without the raster pictures in it is drawn anew when they are here.
onAsset(() => {
  painter?.refresh()
  useThumbs.setState((s) => ({ arrivals: s.arrivals + 1 }))
})
const model = new StageModelSource()
let painter: Painter | null = null
const wanted = new Set<string>()
let isBusy = false

const keyOf = (kind: 'part' | 'bone', id: string): string => `${kind}/${id}`

/** What a picture depends on. */
function sourcesOf(puppet: Puppet, kind: 'part' | 'bone', id: string): readonly unknown[] {
  if (kind === 'bone')
    return [useThumbs.getState().arrivals, puppet.bones[id]?.start, puppet.bones[id]?.end, puppet.drawings, puppet.pictures]
  return partsBelow(puppet, id).flatMap((p) => [
    puppet.pictures[p.merged ?? p.art[puppet.view] ?? ''] && useThumbs.getState().arrivals,
    puppet.pictures[p.merged ?? p.art[puppet.view] ?? ''],
    p.home,
    p.visible,
    p.opacity,
    p.masks,
    p.blend,
    p.effect,
    puppet.drawings[p.art[puppet.view] ?? ''],
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

async function drawOne(key: string): Promise<void> {
  const { puppet } = useDocument.getState()
  const [kind, id] = key.split('/') as ['part' | 'bone', string]
  if (!puppet || !(kind === 'part' ? puppet.parts[id] : puppet.bones[id])) return
  const region = regionOf(puppet, kind, id)
  const from = sourcesOf(puppet, kind, id)
  if (!region) return put(key, { url: '', from })
  const CK = await loadSkia()
  const { rig, frame } = model.get(kind === 'part' && isAlternate(puppet, id) ? withoutSwaps(puppet) : puppet, true)
  const only = kind === 'part' ? new Set(partsBelow(puppet, id).map((p) => rig.parts.index.get(p.id)!)) : undefined
  painter ??= new Painter(CK, assetSource)
  const png = renderPng(CK, frame, { width: SIDE, background: null, region, painter, ...(only ? { only } : {}) })
  put(key, { url: URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })), from })
}

function put(key: string, thumb: Thumb): void {
  const { thumbs } = useThumbs.getState()
  if (thumbs[key]?.url) URL.revokeObjectURL(thumbs[key].url)
  useThumbs.setState({ thumbs: { ...thumbs, [key]: thumb } })
}

/** Runs work when the page is idle, or soon anyway; it is told how many milliseconds it may take. */
const whenIdle = (work: (budget: number) => void): void => {
  if ('requestIdleCallback' in window) requestIdleCallback((d) => work(Math.max(d.timeRemaining(), 6)), { timeout: 80 })
  else setTimeout(() => work(10), 16)
}

/** What the painter holds is as large as the pictures it drew; the next small picture makes what it needs anew. */
function releasePainter(): void {
  painter?.dispose()
  painter = null
}

function work(): void {
  if (isBusy || wanted.size === 0) return
  isBusy = true
  whenIdle((budget) => {
    void drawSome(performance.now() + budget).finally(() => {
      isBusy = false
      if (wanted.size === 0) releasePainter()
      work()
    })
  })
}

/** Draws wanted pictures until the time is up, at least one. */
async function drawSome(until: number): Promise<void> {
  do {
    const key = wanted.values().next().value
    if (key === undefined) return
    wanted.delete(key)
    await drawOne(key).catch(() => undefined)
  } while (performance.now() < until)
}

/** Whether a part or bone shows nothing that could be drawn. */
export const useIsBlank = (kind: 'part' | 'bone', id: string): boolean => useThumbs((s) => s.thumbs[keyOf(kind, id)]?.url === '')

/** URL of the picture of a part or bone; empty until it is drawn. */
export function useThumbnail(kind: 'part' | 'bone', id: string): string {
  const key = keyOf(kind, id)
  const url = useThumbs((s) => s.thumbs[key]?.url ?? '')
  const arrivals = useThumbs((s) => s.arrivals)
  const settled = useDocument((s) => (s.gesture === null ? s.puppet : (s.history?.puppet ?? null)))
  useEffect(() => {
    if (!settled || !(kind === 'part' ? settled.parts[id] : settled.bones[id])) return
    const now = sourcesOf(settled, kind, id)
    const known = useThumbs.getState().thumbs[key]?.from
    if (known && known.length === now.length && known.every((v, i) => v === now[i])) return
    wanted.add(key)
    work()
  }, [settled, kind, id, key, arrivals])
  return url
}
