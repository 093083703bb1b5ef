/** Small puppets for tests, built through the same commands as everything else. */
import { sequentialIds } from '../document/ids'
import { newPart, newPuppet } from '../document/new'
import type { Drawing, Part, Puppet } from '../document/schema'
import { addBone } from '../edit/bones'
import { run } from '../edit/command'
import { addArtwork } from '../edit/parts'

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

/** Numbers from 0 to 1 in an order that a seed fixes (Park and Miller 1988). */
export function seededRandom(seed: number): () => number {
  let state = (seed % 2147483646) + 1
  return () => (state = (state * 48271) % 2147483647) / 2147483647
}

export interface GeneratedSize {
  readonly parts: number
  readonly bones: number
  readonly pointsPerPart: number
}

/** A typical puppet: 60 parts, 30 bones, 8,000 points. */
export const TYPICAL: GeneratedSize = { parts: 60, bones: 30, pointsPerPart: 134 }

/** A puppet of a given size: rings of points in a row of groups, each tied whole to a bone of one long chain. */
export function generatePuppet(size: GeneratedSize, seed = 1): Puppet {
  const random = seededRandom(seed)
  const ids = sequentialIds('g')
  let puppet = newPuppet('generated', 'Generated', { width: 1200, height: 1200 })
  let parent: string | null = null
  const bones: string[] = []
  for (let b = 0; b < size.bones; b++) {
    const id = ids('bone')
    const x = 100 + (1000 * b) / size.bones
    puppet = run(puppet, addBone, { id, name: `Bone ${b + 1}`, parent, start: { x, y: 600 }, end: { x: x + 1000 / size.bones, y: 600 } })
    parent = b % 6 === 5 ? null : id
    bones.push(id)
  }
  const parts: Part[] = []
  const drawings: Drawing[] = []
  for (let p = 0; p < size.parts; p++) {
    const drawing = ring(ids('drawing'), 100 + random() * 1000, 300 + random() * 600, 20 + random() * 60, size.pointsPerPart, random)
    drawings.push(drawing)
    parts.push(drawingPart(ids('part'), `Part ${p + 1}`, drawing))
  }
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts, drawings })
  return {
    ...puppet,
    parts: Object.fromEntries(
      Object.values(puppet.parts).map((part, i) => [
        part.id,
        part.id === puppet.root ? part : { ...part, bind: { kind: 'whole', bone: bones[i % bones.length]! } },
      ]),
    ),
  }
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
