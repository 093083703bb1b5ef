/** Deformers made to fit a part: cages around it, bends and chains along its middle, pins in a mesh of it. */
import type { PartId } from '../kernel/ids'
import type { Cage, DeformerOf, Pins } from '../deformers/records'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { drawingOf, drawnParts, restBounds, restMatrix } from '../parts/tree'
import { apply, invert } from '../maths/geometry/affine'
import { emptyBounds, isEmpty, unite, type Bounds } from '../maths/geometry/bounds'
import { evenly, jointsAlong, lineLength } from '../maths/geometry/polyline'
import { pictureOf } from '../parts/pictures'
import { bindMesh, WeightsError } from './autoWeights'
import { medialLine } from '../artwork/medial'
import { regionOf } from '../artwork/region'

const base = (id: string, name: string) => ({ id, name, when: 'before' as const, bone: null, on: true, amount: 1, only: null })

/** Room that a cage leaves around a part, as a share of its size. */
const ROOM = 0.04

/**
 * A cage around all that a part shows, at rest, or around some of the parts in it. Throws WeightsError where they show
 * nothing.
 */
export function cageAround(puppet: Puppet, part: PartId, id: string, name = 'Cage', only: readonly PartId[] | null = null): Cage {
  const bounds = boundsOfParts(puppet, only ?? [part])
  const back = invert(restMatrix(puppet, part))
  if (!bounds || !back) throw new WeightsError(`"${puppet.parts[part]!.name}" shows nothing that could be deformed.`)
  const corners = [
    { x: bounds.minX, y: bounds.minY },
    { x: bounds.maxX, y: bounds.minY },
    { x: bounds.maxX, y: bounds.maxY },
    { x: bounds.minX, y: bounds.maxY },
  ].map((c) => apply(back, c))
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)]
  const room = ROOM * Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys))
  const round = (v: number): number => Math.round(v * 10) / 10
  const box = {
    x: round(Math.min(...xs) - room),
    y: round(Math.min(...ys) - room),
    width: round(Math.max(...xs) - Math.min(...xs) + 2 * room),
    height: round(Math.max(...ys) - Math.min(...ys) + 2 * room),
  }
  const cage = { ...base(id, name), box, angle: 0, columns: 2, rows: 2, smooth: true, form: new Array<number>(18).fill(0) }
  return { kind: 'cage', ...cage, only: only && [...only] }
}

function boundsOfParts(puppet: Puppet, parts: readonly PartId[]): Bounds | null {
  const out = emptyBounds()
  for (const part of parts) unite(out, restBounds(puppet, part) ?? out)
  return isEmpty(out) ? null : out
}

/** The middle line of all that a part shows, on the canvas at rest. Throws WeightsError where it has none. */
export function middleOf(puppet: Puppet, part: PartId): Vec[] {
  const drawn = drawnParts(puppet, part).flatMap((p) => {
    const drawing = drawingOf(puppet, p)
    return drawing ? [{ drawing, map: restMatrix(puppet, p.id) }] : []
  })
  const line = medialLine(regionOf(drawn, 0.5))
  if (line.length < 2 || lineLength(line) < 4) throw new WeightsError(`"${puppet.parts[part]!.name}" has no middle line to follow.`)
  return line
}

/** Joints of a chain of bones along the middle of a part, from the end that is nearer to a spot (the top without one). */
export function chainAlong(puppet: Puppet, part: PartId, bones: number, from?: Vec): Vec[] {
  return jointsAlong(turnedTo(middleOf(puppet, part), from), bones)
}

function turnedTo(line: Vec[], from?: Vec): Vec[] {
  const [a, b] = [line[0]!, line.at(-1)!]
  const far = (p: Vec): number => (from ? Math.hypot(p.x - from.x, p.y - from.y) : p.y)
  return far(b) < far(a) ? [...line].reverse() : line
}

/** A bend along the middle of a part, from the end that is nearer to its pivot. */
export function bendAlong(puppet: Puppet, part: PartId, id: string, points: number, name = 'Bend'): DeformerOf<'bend'> {
  const map = restMatrix(puppet, part)
  const back = invert(map)
  if (!back) throw new WeightsError(`"${puppet.parts[part]!.name}" is flattened to a line.`)
  const line = turnedTo(middleOf(puppet, part), apply(map, puppet.parts[part]!.pivot))
  return {
    kind: 'bend',
    ...base(id, name),
    points: evenly(line, points).map((p, k) => {
      const { x, y } = apply(back, p)
      return { id: `${id}.${k + 1}`, at: { x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 } }
    }),
    stretch: true,
    holdStart: true,
    holdEnd: false,
  }
}

/** Vertices aimed at for pins in a drawing. */
const WANTED = 600

/** Pins without any pin yet: a picture's own mesh, or one over all that the part shows. Throws WeightsError. */
export function pinMesh(puppet: Puppet, part: PartId, id: string, name = 'Pins'): Pins {
  const picture = pictureOf(puppet, puppet.parts[part]!)
  const { vertices, triangles } = picture?.mesh ?? meshOf(puppet, part)
  if (triangles.length === 0) throw new WeightsError(`"${puppet.parts[part]!.name}" is too thin to be pinned.`)
  return {
    kind: 'pins',
    ...base(id, name),
    vertices: [...vertices],
    triangles: [...triangles],
    stiffness: new Array<number>(vertices.length / 2).fill(1),
    pins: [],
  }
}

function meshOf(puppet: Puppet, part: PartId): Pick<Pins, 'vertices' | 'triangles'> {
  const { mesh, vertices } = bindMesh(puppet, part, WANTED)
  return { vertices, triangles: mesh.triangles }
}
