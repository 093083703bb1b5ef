/** Handles of deformers on the stage: where they are in a frame, and what values bring one to a spot. */
import { handlesOf, type Deformer } from '../deformers/records'
import type { Vec } from '../kernel/numbers'
import { fixPoints, runDeformChain, type DeformChain } from '../placement/deformChain'
import { kindOfDeformer } from '../deformers/kinds'
import { FLAT, posedMap, solveBack, stepBack, type Jacobian } from '../puppet/posedMap'
import { channelAddress } from '../kernel/channel'
import type { Frame } from '../puppet/frame'

/** Places of handles at rest with the form of the document, in the part's own space, in the order of `handlesOf`. */
export const restHandles = (d: Deformer, amount: number): Vec[] => kindOfDeformer(d).places(d, amount)

/** Amount below which a deformer counts as having none. */
const LEAST_AMOUNT = 1e-3

/** Where a handle of a deformer is, at rest and posed. */
export interface HandlePlace {
  readonly id: string
  /** On the posed canvas. */
  readonly x: number
  readonly y: number
}

interface Hold {
  readonly deformer: Deformer
  readonly amount: number
  readonly rest: readonly Vec[]
  /** From the part's own space, after the deformer, to the posed canvas, for what lies at a spot at rest. */
  readonly from: (rest: Vec) => (at: Vec) => Vec
}

/** What comes after a deformer on the way to the canvas. */
function holdOf(frame: Frame, pose: Float64Array, id: string): Hold | null {
  const { rig } = frame
  const s = rig.deformers.findIndex((d) => d.source.id === id)
  const found = rig.deformers[s]
  if (!found) return null
  const { source, part, slots } = found
  const amount = pose[slots.own]! >= 0.5 ? pose[slots.own + 1]! : 0
  const rest = restHandles(source, amount)
  return {
    deformer: source,
    amount,
    rest,
    from: source.when === 'after' ? laterMap(frame, s) : soonerMap(frame, s, rig.deformChains(part)),
  }
}

/** A deformer after bones stands where its part was at rest, carried by its bone. */
function laterMap(frame: Frame, s: number): Hold['from'] {
  const { rig, skeleton } = frame
  const { source, part } = rig.deformers[s]!
  const p = rig.parts.rest
  const k = 6 * part
  const bone = source.bone === null ? -1 : 6 * rig.bones.index.get(source.bone)!
  const m = skeleton.rigid
  return () => (at) => {
    const x = p[k]! * at.x + p[k + 2]! * at.y + p[k + 4]!
    const y = p[k + 1]! * at.x + p[k + 3]! * at.y + p[k + 5]!
    return bone < 0
      ? { x, y }
      : { x: m[bone]! * x + m[bone + 2]! * y + m[bone + 4]!, y: m[bone + 1]! * x + m[bone + 3]! * y + m[bone + 5]! }
  }
}

/** A deformer before bones: its handles go through what stands after it in the stack, and up to the canvas. */
function soonerMap(frame: Frame, s: number, deformChain: DeformChain): Hold['from'] {
  const [own, ...above] = deformChain.levels
  const shapes = own!.shapes.slice(own!.shapes.indexOf(s) + 1)
  const rest: DeformChain = { ...deformChain, levels: [{ ...own!, shapes }, ...above] }
  return (spot) => {
    const fixed = fixPoints(rest, frame.evaluation.shapes, Float64Array.of(spot.x, spot.y))
    const points = new Float64Array(2)
    return (at) => {
      points[0] = at.x
      points[1] = at.y
      runDeformChain(frame.evaluation, rest, fixed, points, points)
      return { x: points[0]!, y: points[1]! }
    }
  }
}

const posedPlace = ({ deformer, amount, rest }: Hold, pose: Frame['rig']['puppet']['pose'], at: number): Vec => {
  const id = handlesOf(deformer)[at]!
  const by = (field: 'x' | 'y'): number => amount * (pose[channelAddress('handle', id, field)] ?? 0)
  return { x: rest[at]!.x + by('x'), y: rest[at]!.y + by('y') }
}

/** Where the handles of a deformer are; empty where it does not exist. */
export function handlePlaces(frame: Frame, pose: Float64Array, values: Readonly<Record<string, number>>, deformer: string): HandlePlace[] {
  const hold = holdOf(frame, pose, deformer)
  if (!hold) return []
  return handlesOf(hold.deformer).map((id, at) => ({ id, ...hold.from(hold.rest[at]!)(posedPlace(hold, values, at)) }))
}

/** Vertices [2n] of the mesh of a part's pins as they are seen in a frame; null where it has no such pins. */
export function posedPinMesh({ rig, evaluation }: Frame, deformer: string): Float64Array | null {
  const found = rig.deformers.find((d) => d.source.id === deformer)
  if (found?.source.kind !== 'pins') return null
  const deformChain = rig.deformChains(found.part)
  const rest = Float64Array.from(found.source.vertices)
  const out = new Float64Array(rest.length)
  runDeformChain(evaluation, deformChain, fixPoints(deformChain, evaluation.shapes, rest), rest, out)
  return out
}

/** A new handle: where it is at rest, and the values that keep what is there where it is. */
export interface NewHandle {
  readonly at: Vec
  readonly values: { readonly x: number; readonly y: number }
}

/** A handle for a spot of the posed canvas; null where the way back is lost. */
export function handleAt(frame: Frame, pose: Float64Array, deformer: string, spot: Vec): NewHandle | null {
  const hold = holdOf(frame, pose, deformer)
  if (!hold) return null
  const { part } = frame.rig.deformers.find((d) => d.source.id === deformer)!
  const own = posedMap(frame, frame.rig.parts.ids[part]!).toPart(spot)
  // After bones a deformer acts on what the bones have made: its space is no longer that of the part's artwork.
  const start = own ?? hold.rest[0] ?? { x: 0, y: 0 }
  const moved = wayBack(hold.from(start), spot, start)
  if (hold.deformer.when === 'after') return moved && { at: moved, values: { x: 0, y: 0 } }
  if (!own || !moved) return null
  const share = Math.abs(hold.amount) < LEAST_AMOUNT ? 1 : hold.amount
  return { at: own, values: { x: (moved.x - own.x) / share, y: (moved.y - own.y) / share } }
}

/**
 * Values that bring a handle to a spot of the posed canvas.
 *
 * @returns null where the way back is lost
 */
export function dragHandle(
  frame: Frame,
  pose: Float64Array,
  values: Readonly<Record<string, number>>,
  deformer: string,
  handle: string,
  spot: Vec,
): Record<string, number> | null {
  const hold = holdOf(frame, pose, deformer)
  if (!hold) return null
  const at = handlesOf(hold.deformer).indexOf(handle)
  const rest = hold.rest[at]
  if (!rest) return null
  const own = wayBack(hold.from(rest), spot, posedPlace(hold, values, at))
  if (!own) return null
  // Without an amount the handle is where it would be with a whole one.
  const share = Math.abs(hold.amount) < LEAST_AMOUNT ? 1 : hold.amount
  return {
    [channelAddress('handle', handle, 'x')]: (own.x - rest.x) / share,
    [channelAddress('handle', handle, 'y')]: (own.y - rest.y) / share,
  }
}

const STEP = 0.05

function wayBack(toCanvas: (at: Vec) => Vec, spot: Vec, start: Vec): Vec | null {
  const derivative = ({ x, y }: Vec): Jacobian => {
    const [right, left, under, over] = [
      toCanvas({ x: x + STEP, y }),
      toCanvas({ x: x - STEP, y }),
      toCanvas({ x, y: y + STEP }),
      toCanvas({ x, y: y - STEP }),
    ]
    const by = 2 * STEP
    return [(right.x - left.x) / by, (right.y - left.y) / by, (under.x - over.x) / by, (under.y - over.y) / by]
  }
  return stepBack(derivative(start), 0, 0, FLAT) ? solveBack(toCanvas, derivative, spot, start) : null
}

/** Corners of a cage's box and its lattice lines as pairs of handle numbers. */
export function cageLines(d: Extract<Deformer, { kind: 'cage' }>): [number, number][] {
  const wide = d.columns + 1
  const out: [number, number][] = []
  for (let r = 0; r <= d.rows; r++)
    for (let c = 0; c <= d.columns; c++) {
      if (c < d.columns) out.push([r * wide + c, r * wide + c + 1])
      if (r < d.rows) out.push([r * wide + c, (r + 1) * wide + c])
    }
  return out
}
