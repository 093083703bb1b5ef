/** Pins and splints in a mesh: what they hold goes where they go, everything between follows as rigidly as it can. */
import { toRadians } from '../maths/geometry/affine'
import { distanceToPolyline } from '../maths/geometry/polyline'
import { Arap, type HeldSpot } from '../maths/solve/arap'
import type { Prepared, Shape, ShapeSlots } from './shape'
import { locatorOf } from '../maths/geometry/meshLocator'
import { z } from 'zod'
import { HandleId } from '../kernel/ids'
import type { Problem } from '../kernel/problem'
import { count, finite, positiveOrZero, Vec } from '../kernel/numbers'
import { deformerFields, isOneSpot, type DeformerKind } from './kind'

/** Holds or moves a spot, or, as a splint, a stretch from `at` to `end` that stays rigid. */
export const Pin = z.object({
  id: HandleId,
  kind: z.enum(['pin', 'splint']),
  at: Vec,
  end: Vec.nullable(),
  /** Whether it stays where it is put; a splint that is not held is moved by the others. */
  held: z.boolean(),
  /** Whether what is around it turns and grows with it, or only goes along. */
  turns: z.boolean(),
  /** How far it takes hold, px of the part's own space. */
  radius: positiveOrZero,
  /** Where a shape folds over itself, what is near a greater depth is painted over what is near a lesser. */
  depth: finite,
})
export type Pin = z.infer<typeof Pin>

/**
 * Pins and splints in a mesh: `vertices` [2n] of the part's own space, `triangles` [3t], `stiffness` [n] how many
 * times stiffer than the rest it is there.
 */
export const Pins = z.object({
  kind: z.literal('pins'),
  ...deformerFields,
  vertices: z.array(finite),
  triangles: z.array(count),
  stiffness: z.array(z.number().min(0.01).max(100)),
  pins: z.array(Pin).max(200),
})
export type Pins = z.infer<typeof Pins>

/** Fits of turns and places in a frame. */
const ITERATIONS = 3

/** What is made once for a deformer of the document and shared by all frames. */
interface Made {
  readonly arap: Arap
  /** [s] which pin holds each spot */
  readonly pinOf: Int32Array
  /** [2s] spots at rest */
  readonly spots: Float64Array
  readonly spacing: number
  /** Where each pin turns. */
  readonly middles: readonly Vec[]
}

const made = new WeakMap<Pins, Made>()

/** Where a pin turns: its spot, or the middle of a splint. */
export const pinMiddle = ({ at, end }: Pin): Vec => (end ? { x: (at.x + end.x) / 2, y: (at.y + end.y) / 2 } : at)

const distanceToPin = ({ at, end }: Pin, x: number, y: number): number =>
  distanceToPolyline([at.x, at.y, end?.x ?? at.x, end?.y ?? at.y], false, x, y)

/** Vertices that a pin takes hold of; what turns takes hold of a triangle at least. */
function gripOf({ vertices }: Pins, pin: Pin, spacing: number): number[] {
  const reach = pin.kind === 'splint' ? Math.max(pin.radius, 0.75 * spacing) : pin.radius
  const out: number[] = []
  for (let v = 0; v < vertices.length / 2; v++) if (distanceToPin(pin, vertices[2 * v]!, vertices[2 * v + 1]!) <= reach) out.push(v)
  return out
}

function make(pins: Pins): Made {
  const known = made.get(pins)
  if (known) return known
  const { vertices, triangles } = pins
  const spacing = meanEdge(pins)
  const locate = locatorOf({ vertices, triangles })
  const held: HeldSpot[] = []
  const pinOf: number[] = []
  const spots: number[] = []
  const rigid: number[][] = []
  const holdVertex = (v: number, k: number): void => {
    held.push({ corners: [v, v, v], shares: [1, 0, 0] })
    pinOf.push(k)
    spots.push(vertices[2 * v]!, vertices[2 * v + 1]!)
  }
  pins.pins.forEach((pin, k) => {
    const grip = gripOf(pins, pin, spacing)
    if (pin.kind === 'splint' && !pin.held) return void (grip.length > 1 && rigid.push(grip))
    const { triangle, u, v, w } = locate(pinMiddle(pin).x, pinMiddle(pin).y)
    const corners = [triangles[3 * triangle]!, triangles[3 * triangle + 1]!, triangles[3 * triangle + 2]!] as const
    const shares = [u, v, w] as const
    held.push({ corners, shares })
    pinOf.push(k)
    spots.push(...[0, 1].map((axis) => corners.reduce((sum, c, i) => sum + shares[i]! * vertices[2 * c + axis]!, 0)))
    if (pin.turns || pin.kind === 'splint') for (const vertex of new Set([...grip, ...corners])) holdVertex(vertex, k)
  })
  const arap = new Arap(pins, held, { stiffness: pins.stiffness, rigid })
  const result = { arap, pinOf: Int32Array.from(pinOf), spots: Float64Array.from(spots), spacing, middles: pins.pins.map(pinMiddle) }
  made.set(pins, result)
  return result
}

/** Mean length of the edges of a mesh, px. */
export function meanEdge({ vertices, triangles }: Pick<Pins, 'vertices' | 'triangles'>): number {
  let sum = 0
  for (let t = 0; t < triangles.length; t += 3) {
    const a = 2 * triangles[t]!
    const b = 2 * triangles[t + 1]!
    sum += Math.hypot(vertices[a]! - vertices[b]!, vertices[a + 1]! - vertices[b + 1]!)
  }
  return triangles.length > 0 ? (3 * sum) / triangles.length : 1
}

/** Pins in a mesh, compiled: holds what the solver has factorised. */
export class PinsShape implements Shape {
  readonly cell: number
  private readonly arap: Arap
  private readonly made: Made
  private readonly targets: Float64Array
  /** Values of the last pose: the same pins need no second solve. */
  private readonly last: Float64Array
  private isSolved = false

  constructor(private readonly pins: Pins) {
    this.made = make(pins)
    this.arap = this.made.arap.twin()
    this.targets = this.made.spots.slice()
    this.last = new Float64Array(this.targets.length)
    this.cell = Math.max(4, 2 * this.made.spacing)
  }

  pose(pose: Float64Array, slots: ShapeSlots): boolean {
    const isMoved = this.placeSpots(pose, slots)
    if (!isMoved) return false
    let isSame = this.isSolved
    for (let k = 0; k < this.targets.length && isSame; k++) isSame = this.targets[k] === this.last[k]
    if (isSame) return true
    this.arap.solve(this.targets, ITERATIONS)
    this.last.set(this.targets)
    this.isSolved = true
    return true
  }

  /** Turns, grows and shifts what each pin holds about its middle; tells whether anything leaves its place. */
  private placeSpots(pose: Float64Array, { own, handles, stride }: ShapeSlots): boolean {
    const { pins } = this.pins
    const { pinOf, spots, middles } = this.made
    const amount = pose[own]! >= 0.5 ? pose[own + 1]! : 0
    let isMoved = false
    for (let s = 0; s < pinOf.length; s++) {
      const pin = pins[pinOf[s]!]!
      const slot = handles + pinOf[s]! * stride
      const turns = pin.turns || pin.kind === 'splint'
      const angle = turns ? toRadians(amount * pose[slot + 2]!) : 0
      const scale = turns && pin.kind === 'pin' ? 1 + amount * (pose[slot + 3]! - 1) : 1
      const { x: cx, y: cy } = middles[pinOf[s]!]!
      const c = scale * Math.cos(angle)
      const d = scale * Math.sin(angle)
      const x = spots[2 * s]! - cx
      const y = spots[2 * s + 1]! - cy
      this.targets[2 * s] = cx + c * x + d * y + amount * pose[slot]!
      this.targets[2 * s + 1] = cy - d * x + c * y + amount * pose[slot + 1]!
      if (amount !== 0 && (pose[slot] !== 0 || pose[slot + 1] !== 0 || angle !== 0 || scale !== 1)) isMoved = true
    }
    return isMoved
  }

  /** Corners and shares of the triangle at or nearest to each point, [6n]; shares go on straight outside the mesh. */
  prepare(points: Float64Array): Prepared {
    const { triangles } = this.pins
    const locate = locatorOf(this.pins)
    const out = new Float64Array(3 * points.length)
    for (let i = 0; i < points.length / 2; i++) {
      const { triangle, u, v, w } = locate(points[2 * i]!, points[2 * i + 1]!)
      for (let k = 0; k < 3; k++) out[6 * i + k] = triangles[3 * triangle + k]!
      out.set([u, v, w], 6 * i + 3)
    }
    return out
  }

  /** A point goes with the corners of its triangle, each turning it about itself: what moves rigidly moves it rigidly. */
  apply(points: Float64Array, prepared: Prepared): void {
    const { places, turns } = this.arap
    const { vertices } = this.pins
    for (let i = 0, q = 0; q < prepared.length; i += 2, q += 6) {
      const px = points[i]!
      const py = points[i + 1]!
      let x = 0
      let y = 0
      for (let k = 0; k < 3; k++) {
        const v = 2 * prepared[q + k]!
        const share = prepared[q + 3 + k]!
        const c = turns[v]!
        const s = turns[v + 1]!
        const dx = px - vertices[v]!
        const dy = py - vertices[v + 1]!
        x += share * (places[v]! + c * dx - s * dy)
        y += share * (places[v + 1]! + s * dx + c * dy)
      }
      points[i] = x
      points[i + 1] = y
    }
  }
}

/**
 * Triangles in the order in which they are painted: what is near pins of greater depth comes later, else as they are.
 *
 * @returns null where all pins are equally deep
 */
export function paintOrder(pins: Pins): number[] | null {
  if (pins.pins.every((p) => p.depth === 0)) return null
  const { arap, pinOf } = make(pins)
  if (pinOf.length === 0) return null
  const depth = Array.from({ length: pins.vertices.length / 2 }, (_, v) =>
    arap.mixture(v).reduce((sum, share, s) => sum + share * pins.pins[pinOf[s]!]!.depth, 0),
  )
  const order = Array.from({ length: pins.triangles.length / 3 }, (_, t) => t)
  const deep = (t: number): number =>
    depth[pins.triangles[3 * t]!]! + depth[pins.triangles[3 * t + 1]!]! + depth[pins.triangles[3 * t + 2]!]!
  order.sort((a, b) => deep(a) - deep(b) || a - b)
  return order.flatMap((t) => pins.triangles.slice(3 * t, 3 * t + 3))
}

/** The mesh of pins holds together. */
function meshProblems({ vertices, triangles, stiffness }: Pins, path: string): Problem[] {
  const out: Problem[] = []
  const n = vertices.length / 2
  if (triangles.length === 0) out.push({ path, message: 'has no mesh for its pins' })
  if (triangles.length % 3 !== 0 || triangles.some((v) => v >= n)) out.push({ path, message: 'has a triangle with a missing vertex' })
  if (stiffness.length !== n) out.push({ path, message: 'has stiffness that does not fit its vertices' })
  return out
}

/** Area, px², below which a triangle counts as flat. */
const FLAT = 1e-3

function hasFlatTriangle(v: readonly number[], triangles: readonly number[]): boolean {
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [2 * triangles[t]!, 2 * triangles[t + 1]!, 2 * triangles[t + 2]!]
    const area = (v[b]! - v[a]!) * (v[c + 1]! - v[a + 1]!) - (v[b + 1]! - v[a + 1]!) * (v[c]! - v[a]!)
    if (Math.abs(area) / 2 < FLAT) return true
  }
  return false
}

/** Deforming by pins: what the table of deformers knows of it. */
export const pinsKind: DeformerKind<Pins> = {
  label: 'pins',
  schema: Pins,
  filesHandles: true,
  isSmooth: false,
  handles: ({ pins }) => pins.map((p) => p.id),
  places: ({ pins }) => pins.map(pinMiddle),
  handleName: ({ name, pins }, at) => `${name}, ${pins[at]!.kind} ${at + 1}`,
  // Splints turn where they are held, and do not grow.
  hasField({ pins }, handle, field) {
    const pin = pins.find((p) => p.id === handle)
    return pin !== undefined && (pin.kind === 'pin' ? pin.turns : pin.held && field === 'angle')
  },
  underId: (d, id) => ({ ...d, id, pins: d.pins.map((p, k) => ({ ...p, id: `${id}.${k + 1}` })) }),
  shape: (d) => new PinsShape(d),
  problems: meshProblems,
  fault({ pins, vertices, triangles }) {
    const held = pins.filter((p) => p.held)
    if (held.some((p, i) => held.slice(0, i).some((q) => isOneSpot(p.at, q.at) && isOneSpot(p.end ?? p.at, q.end ?? q.at))))
      return 'has two pins on one spot'
    return hasFlatTriangle(vertices, triangles) ? 'has pins in a mesh with flat triangles' : null
  },
  paintOrder: (d, { triangles, vertices }) =>
    d.triangles.length === triangles.length && d.vertices.length === vertices.length ? paintOrder(d) : null,
}
