/** Faces with mouths drawn in different ways, on a canvas of 400 by 400 px. */
import type { Drawing, Line, Path } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { ovalPath } from '../artwork/touch/primitives'
import { polygonPath } from '../maths/geometry/path'
import { newPuppet } from '../puppet/new'
import { applyEdits, run } from '../puppet/edit'
import { addArtwork } from '../puppet/artworkCommands'
import { mouthEdits } from '../face/mouth/build'
import type { MouthPlan } from '../face/mouth/plan'
import { boardEdits } from '../face/expressions'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { posedMap } from '../puppet/posedMap'
import { shownDrawing } from '../recording/shown'
import { drawingOf } from '../parts/tree'
import { box, drawingPart } from './puppets'

export const LINE: Line = {
  ...{ paint: { kind: 'flat', colour: '#33211c' }, alpha: 1, width: 4 },
  ...{ cap: 'round', join: 'round', miter: 4, dash: null, pen: null },
}

/** A drawing of one path. */
export function drawn(id: string, path: Path, ink: string | null, line: Line | null): Drawing {
  const [shape] = box(id, 0, 0, 1, 1).shapes
  const paint = ink === null ? null : { paint: { kind: 'flat' as const, colour: ink }, alpha: 1, rule: 'nonzero' as const }
  return { id, shapes: [{ ...shape!, ink: paint, line, paths: [path] }] }
}

const oval = (x: number, y: number, rx: number, ry: number): Path => ovalPath({ x: x - rx, y: y - ry, width: 2 * rx, height: 2 * ry }, 1)

/** An arc that hangs between two points. */
const arc = (x: number, y: number, half: number, depth: number): Path => ({
  ...{ closed: false, ids: [1, 2], anchors: [x - half, y, x + half, y] },
  handles: [0, 0, half / 2, depth, -half / 2, depth, 0, 0],
})

export const FACE = drawn('d-face', oval(200, 200, 140, 160), '#e8b98a', null)
const TEETH = drawn('d-teeth', polygonPath([165, 236, 235, 236, 235, 256, 165, 256]), '#fffdf5', null)
const TONGUE = drawn('d-tongue', oval(200, 275, 24, 16), '#c25a55', null)

function faceWith(drawings: readonly Drawing[]): Puppet {
  const puppet = newPuppet('p', 'Face', { width: 400, height: 400 })
  const parts = drawings.map((d): Part => drawingPart(d.id.slice(2), d.id.slice(2), d))
  return run(puppet, addArtwork, { parent: puppet.root, parts, drawings: [...drawings] })
}

const planOf = (puppet: Puppet, more: Partial<MouthPlan['parts']> = {}): MouthPlan => ({
  parts: {
    ...{ lips: 'lips', teethUpper: puppet.parts['teeth'] ? 'teeth' : null, teethLower: null },
    ...{ tongue: puppet.parts['tongue'] ? 'tongue' : null, along: [], below: [], lowerBeak: null, ...more },
  },
  ...{ jaw: { face: 'face', line: 250, amount: 0.3 }, opening: 0.6 },
})

/** A face before and after its mouth was built. */
export interface MouthCase {
  readonly name: string
  readonly puppet: Puppet
  readonly plan: MouthPlan
}

/** A face of some drawings from the lowest to the uppermost, whose parts have the names of their drawings. */
export const caseOf = (name: string, drawings: readonly Drawing[], more?: Partial<MouthPlan['parts']>): MouthCase => {
  const puppet = faceWith(drawings)
  return { name, puppet, plan: planOf(puppet, more) }
}

const lips = (path: Path): Drawing => drawn('d-lips', path, '#4a1f26', LINE)
const lens = polygonPath([150, 250, 200, 254, 250, 250, 200, 246])

export const MOUTHS: readonly MouthCase[] = [
  caseOf('closed, of straight lines', [FACE, lips(lens), TEETH, TONGUE]),
  caseOf('drawn wide open, an oval', [FACE, lips(oval(200, 262, 46, 30)), TEETH, TONGUE]),
  caseOf('a line that smiles', [FACE, drawn('d-lips', arc(200, 246, 50, 18), null, LINE)]),
  caseOf(
    'an outline apart, a moustache over it',
    [
      FACE,
      drawn('d-lips', oval(200, 262, 40, 14), '#4a1f26', null),
      drawn('d-outline', oval(200, 262, 40, 14), null, LINE),
      drawn('d-moustache', polygonPath([130, 250, 165, 236, 200, 240, 235, 236, 270, 250, 200, 252]), '#6b4a30', null),
    ],
    { along: ['moustache'] },
  ),
]

/** The face with its mouth, and with expressions and mouth shapes on its board. */
export function built({ puppet, plan }: MouthCase): Puppet {
  const mouth = applyEdits(puppet, mouthEdits(puppet, plan, 'm')).puppet
  return applyEdits(mouth, boardEdits(mouth, 'b')).puppet
}

/** The outline of a part as it is shown with some values: its first path on the canvas. */
export function shownPath(puppet: Puppet, part: string, values: Readonly<Record<string, number>>): Path {
  const frame = poseRig(compile(puppet), values)
  return shownDrawing(frame, part, drawingOf(puppet, puppet.parts[part]!)!, posedMap(frame, part)).shapes[0]!.paths[0]!
}
