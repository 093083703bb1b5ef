/**
 * Swaps at work: which alternate shows, and what lies between two of them while one goes over into the other. All of it is
 * told by channels: the alternate, the one before, and how far the way from it has come; nothing depends on what was shown.
 */
import type { PartId } from '../../document/ids'
import type { Match, Melt, Puppet } from '../../document/schema'
import type { RigDrawing } from '../compile'
import type { Frame } from '../evaluate'
import { fieldsOf } from '../../document/channels'
import { smoothstep } from '../../solve/smoothstep'
import { drawingBounds, restMatrix } from '../../document/tree'
import { blendInto, meltOf, roomFor, type Melted, type MeltPlan } from './melting'
import { pairsOf, type Pair, type Piece } from './pairing'

export type { Pair, Piece } from './pairing'
import { warpInto, warpOf, type WarpPlan } from './warping'

export interface RigSwap {
  readonly part: number
  readonly melt: Melt
  readonly initial: number
  /** [k] numbers of the alternates and their parts. */
  readonly numbers: Int32Array
  readonly parts: Int32Array
  /** What is drawn in each alternate, and what of it was matched by hand. */
  readonly pieces: readonly (readonly Piece[])[]
  readonly matches: readonly Match[]
  /** How each alternate melts into each other one, found when it is first asked for. */
  readonly ways: Map<number, MeltWay>
}

/** How one alternate melts into another. */
export interface MeltWay {
  readonly pairs: readonly Pair[]
  /** Drawings of the second that come from nothing. */
  readonly fresh: readonly number[]
}

/** Makes the swaps of a puppet ready; those inside others come after them. */
export function compileSwaps(puppet: Puppet, index: ReadonlyMap<PartId, number>, drawings: readonly RigDrawing[]): RigSwap[] {
  const shownBy = new Map(drawings.map((d, k) => [d.part, k]))
  const inside = (id: PartId, path: string): Piece[] => {
    const own = shownBy.get(index.get(id)!)
    const children = puppet.parts[id]!.children.flatMap((child) => inside(child, `${path}/${meltName(puppet.parts[child]!)}`))
    return own === undefined ? children : [pieceOf(puppet, id, own, path, drawings[own]!), ...children]
  }
  return [...index.keys()].flatMap((id): RigSwap[] => {
    const { swap, children } = puppet.parts[id]!
    if (!swap) return []
    return [
      {
        ...{ part: index.get(id)!, melt: swap.melt, initial: swap.initial },
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
const meltName = ({ role, name }: Puppet['parts'][string]): string =>
  role ??
  name
    .toLowerCase()
    .replace(/[\d_\-.]+$/, '')
    .trim()

const PART_FIELDS = fieldsOf('part')
const ALTERNATE = PART_FIELDS.indexOf('alternate')
const BEFORE = PART_FIELDS.indexOf('before')
const WAY = PART_FIELDS.indexOf('way')

/** Shows of each swap what its channels say. Before drawings are posed. */
export function chooseAlternates({ rig, answers, shown, opacity, melts }: Frame): void {
  for (let s = 0; s < rig.swaps.length; s++) {
    const swap = rig.swaps[s]!
    const { base, stride } = rig.slots.families.part
    const slot = base + stride * swap.part
    const way = Math.min(1, Math.max(0, answers[slot + WAY]!))
    const to = placeOf(swap, Math.round(answers[slot + ALTERNATE]!))
    const before = Math.round(answers[slot + BEFORE]!)
    const from = before === 0 ? -1 : placeOf(swap, before)
    const isGoing = way < 1 && from !== to && from >= 0
    melts.from[s] = isGoing ? from : -1
    melts.to[s] = to
    melts.share[s] = swap.melt.eases ? smoothstep(way) : way
    for (let k = 0; k < swap.parts.length; k++) if (k !== to && !(isGoing && k === from)) shown[swap.parts[k]!] = 0
    if (isGoing && swap.melt.how !== 'melt') dissolve(swap, from, to, melts.share[s]!, shown, opacity)
  }
}

/** The place of a number among the alternates; of one that is gone that of the first shown, of 0 none. */
function placeOf({ numbers, initial }: RigSwap, number: number): number {
  if (number === 0) return -1
  const at = numbers.indexOf(number)
  return at < 0 ? numbers.indexOf(initial) : at
}

/** One after the other for a cut; one through the other for a fade, so that both never thin out together. */
function dissolve({ parts, melt }: RigSwap, from: number, to: number, share: number, shown: Uint8Array, opacity: Float64Array): void {
  if (melt.how === 'cut') {
    const gone = share < 0.5 ? to : from
    if (gone >= 0) shown[parts[gone]!] = 0
    return
  }
  opacity[parts[from]!]! *= Math.min(1, 2 - 2 * share)
  if (to >= 0) opacity[parts[to]!]! *= Math.min(1, 2 * share)
}

/** Which swaps are between two alternates, and how far; drawings that are blended for it. */
export interface Melts {
  /** [s] places of the alternates, -1 for none; how far the way has come. */
  readonly from: Int32Array
  readonly to: Int32Array
  readonly share: Float64Array
  /** [d] what is painted in place of a drawing; null where it is painted as it is. */
  readonly drawn: (Melted | null)[]
  /** [d] room for what was painted in place of a drawing, by what it melted from */
  readonly rooms: readonly Map<MeltPlan, Melted>[]
  /** [d] vertices of a picture's mesh where it is warped; null where it is painted as it is. */
  readonly warped: (Float64Array | null)[]
  readonly warpRooms: readonly Map<WarpPlan, Float64Array>[]
}

export const makeMelts = (swaps: number, drawings: number): Melts => ({
  from: new Int32Array(swaps).fill(-1),
  to: new Int32Array(swaps).fill(-1),
  share: new Float64Array(swaps),
  drawn: new Array<Melted | null>(drawings).fill(null),
  rooms: Array.from({ length: drawings }, () => new Map<MeltPlan, Melted>()),
  warped: new Array<Float64Array | null>(drawings).fill(null),
  warpRooms: Array.from({ length: drawings }, () => new Map<WarpPlan, Float64Array>()),
})

/** Blends what melts, point by point, once all drawings are posed. */
export function meltAlternates(frame: Frame): void {
  const { rig, melts } = frame
  melts.drawn.fill(null)
  melts.warped.fill(null)
  for (let s = 0; s < rig.swaps.length; s++) {
    const swap = rig.swaps[s]!
    if (swap.melt.how === 'melt' && melts.from[s]! >= 0) meltSwap(frame, swap, melts.from[s]!, melts.to[s]!, melts.share[s]!)
  }
}

function wayOf(rig: Frame['rig'], swap: RigSwap, from: number, to: number): MeltWay {
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

/** How one alternate of a swap melts into another, by their numbers; nothing for numbers that are not there. */
export function meltWay(rig: Frame['rig'], part: PartId, from: number, to: number): MeltWay {
  const swap = rig.swaps.find((s) => rig.parts.ids[s.part] === part)
  const [a, b] = [from, to].map((number) => swap?.numbers.indexOf(number) ?? -1)
  return swap && a! >= 0 ? wayOf(rig, swap, a!, b!) : { pairs: [], fresh: [] }
}

function meltSwap(frame: Frame, swap: RigSwap, from: number, to: number, share: number): void {
  const { pairs, fresh } = wayOf(frame.rig, swap, from, to)
  for (const pair of pairs) if (!melted(frame, pair, share) && !warped(frame, pair, share)) fadePair(frame, pair, share)
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
function melted(frame: Frame, { a, b, correction }: Pair, share: number): boolean {
  const { rig, melts, shown } = frame
  const plan = b && meltOf(rig.drawings[a.drawing]!, rig.drawings[b.drawing]!, correction)
  if (!b || !plan) return false
  // The one that is come to is painted for both.
  shown[rig.drawings[a.drawing]!.part] = 0
  const room = melts.rooms[b.drawing]!.get(plan) ?? roomFor(plan)
  melts.rooms[b.drawing]!.set(plan, room)
  blendInto(frame, a.drawing, b.drawing, plan, share, room)
  melts.drawn[b.drawing] = room
  return true
}

/** Shares at which a picture has come in over the one before, and from which that one goes. */
const IN = 0.75

/** Warps two pictures into each other; tells whether they can be. */
function warped(frame: Frame, { a, b, correction }: Pair, share: number): boolean {
  const { rig, melts } = frame
  const plan = b && warpOf(rig.drawings[a.drawing]!, rig.drawings[b.drawing]!, correction, [a.home, b.home])
  if (!b || !plan) return false
  const room = (d: number): Float64Array => {
    const own = melts.warpRooms[d]!.get(plan) ?? new Float64Array(rig.drawings[d]!.picture!.mesh.vertices.length)
    melts.warpRooms[d]!.set(plan, own)
    return (melts.warped[d] = own)
  }
  warpInto(frame, a.drawing, b.drawing, plan, share, { a: room(a.drawing), b: room(b.drawing) })
  // The upper one of both comes or goes over the other, which is there as long as it is needed.
  const [upper, isComing] = b.drawing > a.drawing ? [b.drawing, true] : [a.drawing, false]
  const way = isComing ? share : 1 - share
  fade(frame, upper, Math.min(1, way / IN))
  fade(frame, upper === b.drawing ? a.drawing : b.drawing, Math.min(1, (1 - way) / (1 - IN)))
  return true
}
