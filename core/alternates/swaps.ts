/**
 * Swaps at work: which alternate shows, and what lies between two of them while one goes over into the other. All of it is
 * told by channels: the alternate, the one before, and how far the way from it has come; nothing depends on what was shown.
 */
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { slotOfChannel, type Slots } from '../kernel/slots'
import { smoothstep } from '../maths/solve/smoothstep'
import { drawingBounds, restMatrix } from '../parts/tree'
import { blendInto, morphOf, roomFor, type Morphed, type MorphPlan } from './morph'
import { pairsOf, type Pair, type Piece } from './pairing'
import { warpInto, warpOf, type WarpPlan } from './warping'
import type { RigDrawing } from '../placement/drawing'
import type { MorphingFrame as Frame, RigSwap, MorphWay, Morphs } from './frame'

export type { Pair, Piece } from './pairing'

/** Makes the swaps of a puppet ready; those inside others come after them. */
export function compileSwaps(puppet: Puppet, index: ReadonlyMap<PartId, number>, slots: Slots, drawings: readonly RigDrawing[]): RigSwap[] {
  const slotIn = (id: PartId, field: string): number => slotOfChannel(slots, { family: 'part', id, field })

  const shownBy = new Map(drawings.map((d, k) => [d.part, k]))
  const inside = (id: PartId, path: string): Piece[] => {
    const own = shownBy.get(index.get(id)!)
    const children = puppet.parts[id]!.children.flatMap((child) => inside(child, `${path}/${morphName(puppet.parts[child]!)}`))
    return own === undefined ? children : [pieceOf(puppet, id, own, path, drawings[own]!), ...children]
  }
  return [...index.keys()].flatMap((id): RigSwap[] => {
    const { swap, children } = puppet.parts[id]!
    if (!swap) return []
    return [
      {
        ...{ part: index.get(id)!, morph: swap.morph, initial: swap.initial },
        slots: { alternate: slotIn(id, 'alternate'), before: slotIn(id, 'before'), way: slotIn(id, 'way') },
        numbers: Int32Array.from(children, (child) => puppet.parts[child]!.alternate),
        parts: Int32Array.from(children, (child) => index.get(child)!),
        ...{ pieces: children.map((child) => inside(child, '')), matches: swap.matches, ways: new Map() },
      },
    ]
  })
}

function pieceOf(puppet: Puppet, part: PartId, drawing: number, name: string, drawn: RigDrawing): Piece {
  const home = restMatrix(puppet, part)
  const box = drawingBounds(drawn.drawing, home)
  const size = Math.max(box.maxX - box.minX, box.maxY - box.minY)
  return { drawing, part, name, home, x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2, size }
}

/** What a part in an alternate is known by in the others: its role, else its name without numbers. */
const morphName = ({ role, name }: Puppet['parts'][string]): string =>
  role ??
  name
    .toLowerCase()
    .replace(/[\d_\-.]+$/, '')
    .trim()

/** Shows of each swap what its channels say. Before drawings are posed. */
export function chooseAlternates({ rig, values, shown, opacity, morphs }: Frame): void {
  for (let s = 0; s < rig.swaps.length; s++) {
    const swap = rig.swaps[s]!
    const way = Math.min(1, Math.max(0, values[swap.slots.way]!))
    const to = placeOf(swap, Math.round(values[swap.slots.alternate]!))
    const before = Math.round(values[swap.slots.before]!)
    const from = before === 0 ? -1 : placeOf(swap, before)
    const isGoing = way < 1 && from !== to && from >= 0
    morphs.from[s] = isGoing ? from : -1
    morphs.to[s] = to
    morphs.share[s] = swap.morph.eases ? smoothstep(way) : way
    for (let k = 0; k < swap.parts.length; k++) if (k !== to && !(isGoing && k === from)) shown[swap.parts[k]!] = 0
    if (isGoing && swap.morph.how !== 'morph') dissolve(swap, from, to, morphs.share[s]!, shown, opacity)
  }
}

/** The place of a number among the alternates; of one that is gone that of the first shown, of 0 none. */
function placeOf({ numbers, initial }: RigSwap, number: number): number {
  if (number === 0) return -1
  const at = numbers.indexOf(number)
  return at < 0 ? numbers.indexOf(initial) : at
}

/** One after the other for a cut; one through the other for a fade, so that both never thin out together. */
function dissolve({ parts, morph }: RigSwap, from: number, to: number, share: number, shown: Uint8Array, opacity: Float64Array): void {
  if (morph.how === 'cut') {
    const gone = share < 0.5 ? to : from
    if (gone >= 0) shown[parts[gone]!] = 0
    return
  }
  opacity[parts[from]!]! *= Math.min(1, 2 - 2 * share)
  if (to >= 0) opacity[parts[to]!]! *= Math.min(1, 2 * share)
}

/** Buffers for what morphs: one entry for each swap, and for each drawing a flag. */
export const makeMorphs = (swaps: number, drawings: number): Morphs => ({
  from: new Int32Array(swaps).fill(-1),
  to: new Int32Array(swaps).fill(-1),
  share: new Float64Array(swaps),
  drawn: new Array<Morphed | null>(drawings).fill(null),
  rooms: Array.from({ length: drawings }, () => new Map<MorphPlan, Morphed>()),
  warped: new Array<Float64Array | null>(drawings).fill(null),
  warpRooms: Array.from({ length: drawings }, () => new Map<WarpPlan, Float64Array>()),
})

/** Blends what morphs, point by point, once all drawings are posed. */
export function morphAlternates(frame: Frame): void {
  const { rig, morphs } = frame
  morphs.drawn.fill(null)
  morphs.warped.fill(null)
  for (let s = 0; s < rig.swaps.length; s++) {
    const swap = rig.swaps[s]!
    if (swap.morph.how === 'morph' && morphs.from[s]! >= 0) morphSwap(frame, swap, morphs.from[s]!, morphs.to[s]!, morphs.share[s]!)
  }
}

function wayOf(rig: Frame['rig'], swap: RigSwap, from: number, to: number): MorphWay {
  const key = from * (swap.parts.length + 1) + to + 1
  const known = swap.ways.get(key)
  if (known) return known
  const pieces = swap.pieces[to] ?? []
  const pairs = pairsOf(swap.pieces[from]!, pieces, swap.matches, rig.drawings)
  const met = new Set(pairs.map((p) => p.b))
  const way = { pairs, fresh: pieces.filter((p) => !met.has(p)).map((p) => p.drawing) }
  swap.ways.set(key, way)
  return way
}

/** How one alternate of a swap morphs into another, by their numbers; nothing for numbers that are not there. */
export function morphWay(rig: Frame['rig'], part: PartId, from: number, to: number): MorphWay {
  const swap = rig.swaps.find((s) => rig.parts.ids[s.part] === part)
  const [a, b] = [from, to].map((number) => swap?.numbers.indexOf(number) ?? -1)
  return swap && a! >= 0 ? wayOf(rig, swap, a!, b!) : { pairs: [], fresh: [] }
}

function morphSwap(frame: Frame, swap: RigSwap, from: number, to: number, share: number): void {
  const { pairs, fresh } = wayOf(frame.rig, swap, from, to)
  for (const pair of pairs) if (!morphed(frame, pair, share) && !warped(frame, pair, share)) fadePair(frame, pair, share)
  for (const b of fresh) fade(frame, b, Math.min(1, 2 * share))
}

function fade({ rig, opacity }: Frame, drawing: number, by: number): void {
  opacity[rig.drawings[drawing]!.part]! *= by
}

function fadePair(frame: Frame, { a, b }: Pair, share: number): void {
  fade(frame, a.drawing, Math.min(1, 2 - 2 * share))
  if (b) fade(frame, b.drawing, Math.min(1, 2 * share))
}

/** Blends two drawings; tells whether they can be. */
function morphed(frame: Frame, { a, b, correction }: Pair, share: number): boolean {
  const { rig, morphs, shown } = frame
  const plan = b && morphOf(rig.drawings[a.drawing]!, rig.drawings[b.drawing]!, correction)
  if (!b || !plan) return false
  // The one that is come to is painted for both.
  shown[rig.drawings[a.drawing]!.part] = 0
  const room = morphs.rooms[b.drawing]!.get(plan) ?? roomFor(plan)
  morphs.rooms[b.drawing]!.set(plan, room)
  blendInto(frame, a.drawing, b.drawing, plan, share, room)
  morphs.drawn[b.drawing] = room
  return true
}

/** Shares at which a picture has come in over the one before, and from which that one goes. */
const IN = 0.75

/** Warps two pictures into each other; tells whether they can be. */
export function warped(frame: Frame, { a, b, correction }: Pair, share: number): boolean {
  const { rig, morphs } = frame
  const plan = b && warpOf(rig.drawings[a.drawing]!, rig.drawings[b.drawing]!, correction, [a.home, b.home])
  if (!b || !plan) return false
  const room = (d: number): Float64Array => {
    const own = morphs.warpRooms[d]!.get(plan) ?? new Float64Array(rig.drawings[d]!.picture!.mesh.vertices.length)
    morphs.warpRooms[d]!.set(plan, own)
    return (morphs.warped[d] = own)
  }
  warpInto(frame, a.drawing, b.drawing, plan, share, { a: room(a.drawing), b: room(b.drawing) })
  // The upper one of both comes or goes over the other, which is there as long as it is needed.
  const [upper, isComing] = b.drawing > a.drawing ? [b.drawing, true] : [a.drawing, false]
  const way = isComing ? share : 1 - share
  fade(frame, upper, Math.min(1, way / IN))
  fade(frame, upper === b.drawing ? a.drawing : b.drawing, Math.min(1, (1 - way) / (1 - IN)))
  return true
}
