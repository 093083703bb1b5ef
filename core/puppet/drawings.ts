/** Drawings in the evaluation: what is painted in which order, and what each drawing becomes. */
import type { Drawing, Picture } from '../artwork/records'
import { drawnForm } from '../artwork/flat/drawnForm'
import { rigidGeometry, type Geometry } from '../artwork/flat/flat'
import { kindOfDeformer } from '../deformers/kinds'
import type { Stage, StageKey } from '../kernel/stage'
import { pictureOf } from '../parts/pictures'
import { makeDrawingsFrame, type DrawingsFrame } from '../placement/bendStage'
import { isRigid, type DeformChain } from '../placement/deformChain'
import { deformChainOf, type Ways } from '../placement/deformChains'
import type { DeformRig } from '../placement/deformStage'
import type { RigDrawing } from '../placement/drawing'
import type { PartsFrame, PartsRig } from '../placement/partsStage'
import { makeReshape, ownGeometry } from '../placement/reshape'
import { tessellated } from '../placement/tessellate'
import { respondingParts, movesField } from '../responses/compile'
import { paintInOrder, writePaintList, type PaintList, type PaintOp } from './paintList'
import type { Puppet } from './schema'

/** What of a frame is painted. */
export interface PaintFrame {
  /** What is painted in which order, in this pose. */
  paint: readonly PaintOp[]
}

/** Which parts the pose shows or hides. */
const SHOWN: StageKey = {
  reads: ['pose'],
  of: ({ pose }) => JSON.stringify(Object.keys(pose).filter((address) => address.endsWith('/shown'))),
}

/** What of drawings responses change, and which parts may come to show by them. */
function changedOf(puppet: Puppet): string {
  const changed = (['points', 'paint'] as const).map((what) =>
    [...respondingParts(puppet, what)].map(([part, ids]) => [part, ...ids]).sort(),
  )
  const hidden = Object.values(puppet.parts).filter((p) => !p.visible && movesField(puppet, p.id, 'shown'))
  return JSON.stringify([changed, hidden.map((p) => p.id)])
}

/** Compiles drawings and pictures, and orders them for painting. */
export const drawingsStage: Stage<DeformRig & PartsRig, PaintList, object, DrawingsFrame & PaintFrame> = {
  name: 'drawings',
  after: ['parts', 'deformers'],
  reads: ['parts', 'root', 'drawings', 'pictures', 'view'],
  keys: [SHOWN, { reads: ['parts', 'responses', 'controls'], of: changedOf }],
  compile(puppet, { placed, parts, ways }) {
    const [reshaped, painted] = [respondingParts(puppet, 'points'), respondingParts(puppet, 'paint')]
    const answering = (part: string, drawing: string): Answering =>
      reshaped.get(part)?.has(drawing) ? 'points' : painted.get(part)?.has(drawing) ? 'paint' : 'nothing'
    return writePaintList(
      puppet,
      placed,
      parts.index,
      (at, drawing) => {
        const { part } = placed[at]!
        return compileDrawing(ways, at, drawing, pictureOf(puppet, part), answering(part.id, drawing.id))
      },
      (part) => movesField(puppet, part, 'shown') || `part/${part}/shown` in puppet.pose,
    )
  },
  buffers: (rig) => ({ ...makeDrawingsFrame(rig), paint: rig.paint }),
}

/** The paint list in the order that this pose asks for. */
export const paintStage: Stage<PaintList, object, PartsFrame & PaintFrame, object> = {
  name: 'paint',
  run(list, frame) {
    const { steps } = frame
    let isReordered = false
    for (let p = 0; p < steps.length; p++) isReordered ||= steps[p] !== 0
    frame.paint = isReordered ? paintInOrder(list, steps) : list.paint
  },
}

/** What of a drawing responses change. */
type Answering = 'points' | 'paint' | 'nothing'

function compileDrawing(ways: Ways, part: number, drawn: Drawing, picture: Picture | null, answers: Answering): RigDrawing {
  const drawing = drawnForm(drawn)
  const deformChain = deformChainOf(ways, part)
  const order = picture && orderOf(ways, deformChain, picture)
  const form = isRigid(deformChain)
    ? { geometry: rigidGeometry(drawing), tessellation: null }
    : tessellated(ways, deformChain, drawing, picture)
  const own = (base: Geometry | null): Geometry => ownGeometry(drawn, ways.table.ids[part]!, base)
  if (picture || answers === 'nothing') return { part, drawing, picture, order, ...form, reshape: null }
  // Parts that share a drawing may be painted apart.
  if (answers === 'paint')
    return { part, drawing, picture, order, tessellation: form.tessellation, geometry: own(form.geometry), reshape: null }
  const geometry = own(form.tessellation && form.geometry)
  return {
    part,
    drawing,
    picture,
    order,
    tessellation: form.tessellation,
    geometry,
    reshape: makeReshape(drawn, form.tessellation, ways.shapes),
  }
}

/** Triangles of a picture by the depth of the pins that move it, where they share its mesh. */
function orderOf({ deformers }: Ways, { levels }: DeformChain, { mesh }: Picture): readonly number[] | null {
  for (const s of levels.flatMap((l) => l.shapes)) {
    const { source } = deformers[s]!
    const order = kindOfDeformer(source).paintOrder?.(source, mesh)
    if (order) return order
  }
  return null
}
