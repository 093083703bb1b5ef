/**
 * Swaps at work: which alternate shows, and what lies between two of them while one goes over into the other. All of it is
 * told by channels: the alternate, the one before, and how far the way from it has come; nothing depends on what was shown.
 */
import type { PartId } from '../../document/ids'
import type { Melt, Puppet } from '../../document/schema'
import type { RigDrawing } from '../compile'
import type { Frame } from '../evaluate'
import { fieldsOf } from '../../document/channels'
import { blendInto, meltOf, roomFor, type Melted, type MeltPlan } from './melting'

export interface RigSwap {
  readonly part: number
  readonly melt: Melt
  readonly initial: number
  /** [k] numbers of the alternates and their parts. */
  readonly numbers: Int32Array
  readonly parts: Int32Array
  /** Drawings in each alternate with the names that they are known by when they melt. */
  readonly drawings: readonly (readonly NamedDrawing[])[]
}

export interface NamedDrawing {
  readonly drawing: number
  readonly name: string
}

/** Makes the swaps of a puppet ready; those inside others come after them. */
export function compileSwaps(puppet: Puppet, index: ReadonlyMap<PartId, number>, drawings: readonly RigDrawing[]): RigSwap[] {
  const shownBy = new Map(drawings.map((d, k) => [d.part, k]))
  const inside = (id: PartId, path: string): NamedDrawing[] => {
    const own = shownBy.get(index.get(id)!)
    const children = puppet.parts[id]!.children.flatMap((child) => inside(child, `${path}/${meltName(puppet.parts[child]!)}`))
    return own === undefined ? children : [{ drawing: own, name: path }, ...children]
  }
  return [...index.keys()].flatMap((id): RigSwap[] => {
    const { swap, children } = puppet.parts[id]!
    if (!swap) return []
    return [
      {
        ...{ part: index.get(id)!, melt: swap.melt, initial: swap.initial },
        numbers: Int32Array.from(children, (child) => puppet.parts[child]!.alternate),
        parts: Int32Array.from(children, (child) => index.get(child)!),
        drawings: children.map((child) => inside(child, '')),
      },
    ]
  })
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
    melts.share[s] = swap.melt.eases ? way * way * (3 - 2 * way) : way
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
}

export const makeMelts = (swaps: number, drawings: number): Melts => ({
  from: new Int32Array(swaps).fill(-1),
  to: new Int32Array(swaps).fill(-1),
  share: new Float64Array(swaps),
  drawn: new Array<Melted | null>(drawings).fill(null),
  rooms: Array.from({ length: drawings }, () => new Map<MeltPlan, Melted>()),
})

/** Blends what melts, point by point, once all drawings are posed. */
export function meltAlternates(frame: Frame): void {
  const { rig, melts } = frame
  melts.drawn.fill(null)
  for (let s = 0; s < rig.swaps.length; s++) {
    const swap = rig.swaps[s]!
    if (swap.melt.how === 'melt' && melts.from[s]! >= 0) meltSwap(frame, swap, melts.from[s]!, melts.to[s]!, melts.share[s]!)
  }
}

function meltSwap(frame: Frame, swap: RigSwap, from: number, to: number, share: number): void {
  const { rig, melts, shown, opacity } = frame
  const partners = new Map((swap.drawings[to] ?? []).map((d) => [d.name, d.drawing]))
  const fade = (d: number, by: number): void => {
    opacity[rig.drawings[d]!.part]! *= by
  }
  for (const { drawing: a, name } of swap.drawings[from]!) {
    const b = partners.get(name)
    const melt = b === undefined ? null : meltOf(rig.drawings[a]!, rig.drawings[b]!)
    if (!melt) {
      fade(a, Math.min(1, 2 - 2 * share))
      continue
    }
    partners.delete(name)
    // The one that is come to is painted for both.
    shown[rig.drawings[a]!.part] = 0
    const room = melts.rooms[b!]!.get(melt) ?? roomFor(melt)
    melts.rooms[b!]!.set(melt, room)
    blendInto(frame, a, b!, melt, share, room)
    melts.drawn[b!] = room
  }
  for (const b of partners.values()) fade(b, Math.min(1, 2 * share))
}
