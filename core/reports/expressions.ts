/**
 * Looking at what moods and sounds do to a face: those that do nothing, parts that run into each other, and what leaves its mask.
 * Pure pixel work, on small pictures of each part alone.
 */
import type { PartId } from '../kernel/ids'
import type { MouthFault } from './mouthFaults'
import type { Puppet } from '../puppet/schema'
import { partPath } from '../parts/tree'

/** A face in one expression. */
export interface FaceLook {
  /** [4 n] all of it */
  readonly whole: Uint8Array
  /** [n] where each part would be without its masks: 1 or 0. */
  readonly own: ReadonlyMap<PartId, Uint8Array>
  /** [n] where each part is seen. */
  readonly seen: ReadonlyMap<PartId, Uint8Array>
}

/** Something wrong with a face in an expression, and where. */
export type FaceFinding =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'collides'; readonly a: PartId; readonly b: PartId }
  | { readonly kind: 'leaves-mask'; readonly part: PartId }
  | MouthFault

function area(bits: Uint8Array): number {
  let sum = 0
  for (let k = 0; k < bits.length; k++) sum += bits[k]!
  return sum
}

function overlap(a: Uint8Array, b: Uint8Array): number {
  let sum = 0
  for (let k = 0; k < a.length; k++) sum += a[k]! & b[k]!
  return sum
}

/** Share of the picture from which a part is ground on which others lie, as a cheek or a whole head. */
const GROUND = 0.25
/** Pixels that touch by chance. */
const TOUCH = 4

/** Parts that belong together at rest, as what is in an eye: they lie on each other, or mask each other. Ground belongs to nothing. */
export function togetherAtRest(puppet: Puppet, rest: FaceLook): (a: PartId, b: PartId) => boolean {
  const ids = [...rest.seen.keys()]
  const lead = new Map(ids.map((id) => [id, id]))
  const root = (id: PartId): PartId => (lead.get(id) === id ? id : root(lead.get(id)!))
  const isGround = groundOf(rest)
  // What shows in turn belongs to what the one of them that shows at rest belongs to.
  const swaps = new Map<PartId, PartId>()
  for (const id of ids) {
    const swap = partPath(puppet, id).find((p) => p.swap !== null)?.id
    if (swap !== undefined) lead.set(root(id), root(swaps.get(swap) ?? id))
    if (swap !== undefined) swaps.set(swap, id)
  }
  for (const [k, a] of ids.entries()) {
    for (const { shape } of puppet.parts[a]!.masks) if (lead.has(shape)) lead.set(root(a), root(shape))
    for (const b of ids.slice(0, k))
      if (!isGround(a) && !isGround(b) && overlap(rest.own.get(a)!, rest.own.get(b)!) > TOUCH) lead.set(root(a), root(b))
  }
  return (a, b) => root(a) === root(b)
}

const groundOf = ({ own }: FaceLook): ((id: PartId) => boolean) => {
  const sizes = new Map([...own].map(([id, bits]) => [id, area(bits) / Math.max(1, bits.length)]))
  return (id) => (sizes.get(id) ?? 0) > GROUND
}

/** Colour values by which a pixel differs, and pixels from which something is seen to happen. */
const DIFFERS = 24
const LEAST_CHANGE = 6
/** Share of the smaller part from which two lie on each other, and pixels at least. */
const RUNS_IN = 0.1
const RUNS_IN_PIXELS = 12
/** Share of what is seen of a masked part at rest, below which it has left its mask. */
const LEFT = 0.3

/**
 * What is wrong with an expression.
 *
 * @param isStill whether it is meant to look like rest, as a closed mouth does
 */
export function faceFindings(
  rest: FaceLook,
  look: FaceLook,
  belongTogether: (a: PartId, b: PartId) => boolean,
  isStill = false,
): FaceFinding[] {
  if (!differs(rest.whole, look.whole)) return isStill ? [] : [{ kind: 'nothing' }]
  return [...collisions(rest, look, belongTogether), ...leavers(rest, look)]
}

function differs(a: Uint8Array, b: Uint8Array): boolean {
  let count = 0
  let last = -1
  for (let k = 0; k < a.length; k++) {
    // One channel of a pixel is enough.
    if (Math.abs(a[k]! - b[k]!) <= DIFFERS || k >> 2 === last) continue
    last = k >> 2
    if (++count >= LEAST_CHANGE) return true
  }
  return false
}

function collisions(rest: FaceLook, look: FaceLook, belongTogether: (a: PartId, b: PartId) => boolean): FaceFinding[] {
  const isGround = groundOf(rest)
  const sizes = new Map([...look.seen].map(([id, bits]) => [id, area(bits)]))
  const ids = [...look.seen.keys()].filter((id) => !isGround(id) && sizes.get(id)! > 0)
  const out: FaceFinding[] = []
  for (const [k, a] of ids.entries())
    for (const b of ids.slice(0, k)) {
      const [one, other] = [look.seen.get(a)!, look.seen.get(b)!]
      if (belongTogether(a, b) || (one === rest.seen.get(a) && other === rest.seen.get(b))) continue
      const now = overlap(one, other)
      const enough = Math.max(RUNS_IN_PIXELS, RUNS_IN * Math.min(sizes.get(a)!, sizes.get(b)!))
      if (now > enough && now > 2 * overlap(rest.seen.get(a)!, rest.seen.get(b)!)) out.push({ kind: 'collides', a, b })
    }
  return out
}

/** Masked parts of which less is seen than at rest because they went elsewhere, not because they are out of sight themselves. */
function leavers(rest: FaceLook, look: FaceLook): FaceFinding[] {
  return [...look.own].flatMap(([part, own]): FaceFinding[] => {
    const [seen, before, was] = [look.seen.get(part)!, rest.seen.get(part)!, rest.own.get(part)!]
    if (seen === own || area(own) < RUNS_IN_PIXELS || area(before) < RUNS_IN_PIXELS) return []
    const share = area(seen) / area(own)
    return share < LEFT * (area(before) / Math.max(1, area(was))) ? [{ kind: 'leaves-mask', part }] : []
  })
}
