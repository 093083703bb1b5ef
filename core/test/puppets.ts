/** Small puppets for tests, built through the same commands as everything else. */
import { seededRandom } from '../maths/solve/random'
import { sequentialIds } from '../kernel/ids'
import { newPuppet } from '../puppet/new'
import type { Drawing } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { drawingBounds } from '../parts/tree'
import { addBone } from '../bones/commands'
import { run } from '../puppet/edit'
import type { Bounds } from '../maths/geometry/bounds'
import { newPart } from '../parts/new'
import { newBone } from '../bones/new'
import type { Bind, WeightField } from '../binds/records'
import type { Bone } from '../bones/records'
import { addArtwork } from '../puppet/artworkCommands'
import { drawingBy } from '../artwork/art'

/** A rectangle as a drawing. */
export function box(id: string, x: number, y: number, width: number, height: number): Drawing {
  return {
    id,
    shapes: [
      {
        id: 0,
        alpha: 1,
        ink: { paint: { kind: 'flat', colour: '#aa5533' }, alpha: 1, rule: 'nonzero' },
        line: null,
        lineFirst: false,
        paths: [
          {
            closed: true,
            ids: [0, 1, 2, 3],
            anchors: [x, y, x + width, y, x + width, y + height, x, y + height],
            handles: new Array<number>(16).fill(0),
          },
        ],
      },
    ],
  }
}

/** A part that shows a drawing. */
export const drawingPart = (id: string, name: string, drawing: Drawing): Part => ({
  ...newPart(id, name, { kind: 'drawing' }),
  art: { front: drawing.id },
})

/**
 * An arm of 200 by 40 px that points to the right from (100, 100), with a hand part, and the bones upper, lower and
 * hand along its middle.
 */
export function armPuppet(): Puppet {
  const sleeve = box('d-sleeve', 100, 80, 200, 40)
  const hand = box('d-hand', 300, 85, 40, 30)
  let puppet = newPuppet('arm', 'Arm', { width: 500, height: 300 })
  const parts = [drawingPart('sleeve', 'Sleeve', sleeve), drawingPart('hand', 'Hand', hand)]
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts, drawings: [sleeve, hand] })
  puppet = run(puppet, addBone, { id: 'upper', name: 'Upper', parent: null, start: { x: 100, y: 100 }, end: { x: 200, y: 100 } })
  puppet = run(puppet, addBone, { id: 'lower', name: 'Lower', parent: 'upper', start: { x: 200, y: 100 }, end: { x: 300, y: 100 } })
  return run(puppet, addBone, { id: 'palm', name: 'Palm', parent: 'lower', start: { x: 300, y: 100 }, end: { x: 340, y: 100 } })
}

export interface GeneratedSize {
  readonly parts: number
  readonly bones: number
  readonly pointsPerPart: number
}

/** A typical puppet: 60 parts, 30 bones, 8,000 points. */
export const TYPICAL: GeneratedSize = { parts: 60, bones: 30, pointsPerPart: 134 }
/** A heavy one: 300 parts, 120 bones, 60,000 points. */
export const HEAVY: GeneratedSize = { parts: 300, bones: 120, pointsPerPart: 200 }
/** Ten times as much as a heavy one. */
export const STRESS: GeneratedSize = { parts: 3000, bones: 1200, pointsPerPart: 200 }

/**
 * A puppet of a given size: rings of points, tied to bones of chains of six. Every fourth part bends with two
 * bones, the others follow one whole.
 */
export function generatePuppet(size: GeneratedSize, seed = 1): Puppet {
  const random = seededRandom(seed)
  const ids = sequentialIds('g')
  let puppet = newPuppet('generated', 'Generated', { width: 1200, height: 1200 })
  const bones: string[] = []
  const skeleton: Record<string, Bone> = {}
  for (let b = 0; b < size.bones; b++) {
    const id = ids('bone')
    const x = 100 + (1000 * b) / size.bones
    const parent = b % 6 === 0 ? null : bones[b - 1]!
    skeleton[id] = { ...newBone(id, `Bone ${b + 1}`, { x, y: 600 }, { x: x + 1000 / size.bones, y: 600 }), parent }
    if (parent) skeleton[parent]!.children.push(id)
    bones.push(id)
  }
  puppet = { ...puppet, bones: skeleton, skeleton: bones.filter((_, b) => b % 6 === 0) }
  const parts: Part[] = []
  const drawings: Drawing[] = []
  for (let p = 0; p < size.parts; p++) {
    const drawing = ring(ids('drawing'), 100 + random() * 1000, 300 + random() * 600, 20 + random() * 60, size.pointsPerPart, random)
    drawings.push(drawing)
    parts.push(drawingPart(ids('part'), `Part ${p + 1}`, drawing))
  }
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts, drawings })
  const bindOf = (part: Part, i: number): Bind => {
    const at = (i % bones.length) - (i % 6 === 5 ? 1 : 0)
    const pair = [bones[at]!, bones[at + 1] ?? bones[at - 1]!]
    if (i % 4 !== 0) return { kind: 'whole', bone: pair[0]! }
    const field = slopeField(drawingBounds(drawingBy(puppet, part.art['front']!)!))
    const madeAt = pair.flatMap((id) => [skeleton[id]!.start.x, skeleton[id]!.start.y, skeleton[id]!.end.x, skeleton[id]!.end.y])
    return { kind: 'blended', mode: 'volume', bones: pair, field, madeAt }
  }
  return {
    ...puppet,
    parts: Object.fromEntries(
      Object.values(puppet.parts).map((part, i) => [part.id, part.id === puppet.root ? part : { ...part, bind: bindOf(part, i) }]),
    ),
  }
}

/** Weights over a box that pass from one bone to another, left to right, on a grid. */
function slopeField({ minX, minY, maxX, maxY }: Bounds, cells = 8): WeightField {
  const field: WeightField = { vertices: [], triangles: [], starts: [0], bones: [], weights: [] }
  for (let r = 0; r <= cells; r++)
    for (let c = 0; c <= cells; c++) {
      field.vertices.push(minX + ((maxX - minX) * c) / cells, minY + ((maxY - minY) * r) / cells)
      field.bones.push(0, 1)
      field.weights.push(1 - c / cells, c / cells)
      field.starts.push(field.bones.length)
      const at = r * (cells + 1) + c
      if (r < cells && c < cells) field.triangles.push(at, at + 1, at + cells + 1, at + 1, at + cells + 2, at + cells + 1)
    }
  return field
}

function ring(id: string, cx: number, cy: number, radius: number, points: number, random: () => number): Drawing {
  const anchors: number[] = []
  const handles: number[] = []
  const arm = (4 / 3) * Math.tan(Math.PI / (2 * points)) * radius
  for (let i = 0; i < points; i++) {
    const a = (2 * Math.PI * i) / points
    anchors.push(cx + Math.cos(a) * radius * (0.9 + 0.2 * random()), cy + Math.sin(a) * radius * (0.9 + 0.2 * random()))
    handles.push(Math.sin(a) * arm, -Math.cos(a) * arm, -Math.sin(a) * arm, Math.cos(a) * arm)
  }
  const shape = {
    ...box(id, 0, 0, 1, 1).shapes[0]!,
    paths: [{ closed: true, ids: anchors.slice(0, points).map((_, i) => i), anchors, handles }],
  }
  return { id, shapes: [shape] }
}
