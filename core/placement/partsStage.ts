/** Parts in the evaluation: W, the product of home and posed offset from the root down, and what parts look like. */
import type { BonesFrame, BonesRig } from '../bones/stage'
import type { SlotsRig } from '../kernel/slots'
import { fieldAt } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import { toRadians } from '../maths/geometry/affine'
import { partFieldAt } from '../parts/channels'
import { compose } from './deformChain'
import { collectParts, compileParts, type Placed, type PartTable } from './parts'

/** Parts of a rig, parents before children. */
export interface PartsRig {
  readonly parts: PartTable
  /** Parts of the table as the document has them. */
  readonly placed: readonly Placed[]
}

/** Where parts are in a frame. */
export interface PartsFrame {
  /** [6p] W of each part */
  readonly world: Float64Array
  /** [6p] W of each part; for parts that follow one bone or another part whole, K W */
  readonly parts: Float64Array
  /** [6p] home and offset of each part alone */
  readonly local: Float64Array
  /** [p] own opacity, channel included */
  readonly opacity: Float64Array
  /** [p] 0 where a part is hidden; it may mask others all the same */
  readonly shown: Uint8Array
  /** [p] 0 where the masks of a part do not count */
  readonly masked: Uint8Array
  /** [p] by how many steps each part is painted earlier or later */
  readonly steps: Int32Array
}

/** Places parts: from their own space to the canvas, before bones act. */
export const partsStage: Stage<BonesRig & SlotsRig, PartsRig, BonesFrame, PartsFrame> = {
  name: 'parts',
  after: ['slots', 'bones'],
  reads: ['parts', 'root', 'stage'],
  compile(puppet, { bones, slots }) {
    const placed = collectParts(puppet)
    return { placed, parts: compileParts(placed, bones, slots) }
  },
  buffers({ parts: { ids } }) {
    const count = ids.length
    return {
      world: new Float64Array(6 * count),
      parts: new Float64Array(6 * count),
      local: new Float64Array(6 * count),
      opacity: new Float64Array(count),
      shown: new Uint8Array(count).fill(1),
      masked: new Uint8Array(count).fill(1),
      steps: new Int32Array(count),
    }
  },
}

type Placing = PartsFrame & BonesFrame & { readonly values: Float64Array }

/** Places parts by what the pose and all that values to it say. */
export const placingStage: Stage<PartsRig & SlotsRig, object, Placing, object> = {
  name: 'placing',
  run: (rig, frame) => placeParts(rig, frame.values, frame),
}

function placeParts(rig: PartsRig & SlotsRig, pose: Float64Array, frame: Placing): void {
  const { carrier, home, bone } = rig.parts
  const { world, parts, bones, local: own, steps } = frame
  const masksAt = fieldAt(rig.slots, 'part', 'masked')
  for (let p = 0; p < carrier.length; p++) {
    const at = 6 * p
    const slot = partSlot(rig, p)
    if (offsetPart(rig, p, pose, slot)) compose(home, at, local, 0, own, at)
    else compose(home, -1, home, at, own, at)
    compose(world, 6 * carrier[p]!, own, at, world, at)
    frame.opacity[p] = Math.min(1, Math.max(0, pose[slot + OPACITY]!))
    frame.shown[p] = Number(pose[slot + SHOWN]! >= 0.5)
    frame.masked[p] = Number(pose[slot + masksAt]! >= 0.5)
    steps[p] = Math.round(pose[slot + ORDER]!)
    compose(bones, 6 * bone[p]!, world, at, parts, at)
  }
}

/** Where the fields of a part start in a pose array. */
export const partSlot = ({ parts: { slots } }: Pick<PartsRig, 'parts'>, part: number): number => slots.base + part * slots.stride

const [OPACITY, SHOWN, ORDER] = [partFieldAt('opacity'), partFieldAt('shown'), partFieldAt('order')]

/** The map being made. */
const local = new Float64Array(6)

/** Writes the posed offset of a part about its pivot into `local`; false where the part has none. */
function offsetPart(rig: PartsRig, p: number, pose: Float64Array, slot: number): boolean {
  const x = pose[slot]!
  const y = pose[slot + 1]!
  const turn = pose[slot + 2]!
  const sx = pose[slot + 3]!
  const sy = pose[slot + 4]!
  if (x === 0 && y === 0 && turn === 0 && sx === 1 && sy === 1) return false
  const px = rig.parts.pivot[2 * p]!
  const py = rig.parts.pivot[2 * p + 1]!
  const angle = toRadians(turn)
  const cos = Math.cos(angle)
  const sin = Math.sin(angle)
  local[0] = cos * sx
  local[1] = -sin * sx
  local[2] = sin * sy
  local[3] = cos * sy
  local[4] = x + px - local[0]! * px - local[2]! * py
  local[5] = y + py - local[1]! * px - local[3]! * py
  return true
}
