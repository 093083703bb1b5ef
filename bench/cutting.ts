/** cut-500, fill-cap-256, sweep-37 and range-test-marlo. */
import { capPicture } from '@marionette/core/joints/capPicture'
import { cutDrawing } from '@marionette/core/artwork/cutDrawing'
import { polygonPath } from '@marionette/core/maths/geometry/path'
import { newRaster } from '@marionette/core/maths/geometry/raster'
import type { Drawing, Path } from '@marionette/core/puppet/schema'
import { loadCanvasKit } from '@marionette/render/node'
import { RangeCamera } from '@marionette/authoring/rangeSheet'
import { rangeTest } from '@marionette/authoring/rangeTest'
import { sweepJoint } from '@marionette/authoring/sweep'
import { FEW_ROUNDS, measure, type Figure } from './measure'
import { marlo } from './puppet'

const SEGMENTS = 500
const SIDE = 256
const ANGLES = 37

/** A wavy closed curve of many segments around (500, 500). */
function wavy(): Drawing {
  const anchors: number[] = []
  const handles: number[] = []
  for (let i = 0; i < SEGMENTS; i++) {
    const angle = (2 * Math.PI * i) / SEGMENTS
    const r = 380 + 40 * Math.sin(13 * angle) + 12 * Math.sin(61 * angle)
    anchors.push(500 + r * Math.cos(angle), 500 + r * Math.sin(angle))
    const along = [-1.6 * Math.sin(angle), 1.6 * Math.cos(angle)] as const
    handles.push(-along[0], -along[1], along[0], along[1])
  }
  const path: Path = { closed: true, ids: Array.from({ length: SEGMENTS }, (_, i) => i), anchors, handles }
  const flat = { kind: 'flat' as const, colour: '#446655' }
  const line = { paint: flat, alpha: 1, width: 4, cap: 'round' as const, join: 'round' as const, miter: 4, dash: null, pen: null }
  return { id: 'd', shapes: [{ id: 0, paths: [path], ink: { paint: flat, alpha: 1, rule: 'nonzero' }, line, alpha: 1, lineFirst: false }] }
}

export function cutFigure(): Figure {
  const drawing = wavy()
  const lasso = Array.from({ length: 40 }, (_, i) => {
    const angle = (2 * Math.PI * i) / 40
    return [700 + 300 * Math.cos(angle), 480 + 260 * Math.sin(angle)]
  }).flat()
  const area = { paths: [polygonPath(lasso)], rule: 'nonzero' as const }
  return measure(
    'cut-500',
    SEGMENTS,
    'n is segments: ink and line cut by a lasso of 40 corners',
    () => cutDrawing(drawing, area),
    undefined,
    FEW_ROUNDS,
  )
}

/** An outlined limb with stripes that ends in the middle of the picture. */
function limb() {
  const out = newRaster(400, SIDE + 40)
  for (let y = 20; y < SIDE + 20; y++)
    for (let x = 0; x < 200; x++) {
      const isLine = y < 26 || y >= SIDE + 14
      out.data.set(isLine ? [30, 20, 20, 255] : (x + y) % 40 < 20 ? [220, 160, 90, 255] : [210, 150, 80, 255], 4 * (y * 400 + x))
    }
  return out
}

export function fillFigure(): Figure {
  const source = limb()
  const disc = { centre: { x: 200, y: 20 + SIDE / 2 }, radius: SIDE / 2 }
  return measure(
    'fill-cap-256',
    SIDE,
    'n is px across: outline taken out, end filled, line drawn',
    () => capPicture(source, disc, 'under', { threshold: 0.3 }),
    undefined,
    FEW_ROUNDS,
  )
}

export async function sweepFigure(): Promise<Figure> {
  const CK = await loadCanvasKit()
  const puppet = marlo()
  const joint = Object.values(puppet.joints).find((j) => /Forearm/.test(puppet.parts[j.under]!.name))!
  return measure(
    'sweep-37',
    ANGLES,
    "n is angles: Marlo's elbow at 256x256, pictures and faults",
    () => sweepJoint(CK, puppet, joint, { count: ANGLES }),
    undefined,
    FEW_ROUNDS,
  )
}

/** Side of the pictures to which a range test is compared, px. */
const PICTURE = 160

/** A range test of all that Marlo does, against pictures of the same poses. */
export async function rangeTestFigure(): Promise<Figure> {
  const CK = await loadCanvasKit()
  const puppet = marlo()
  const report = rangeTest(CK, puppet)
  const camera = new RangeCamera(CK, puppet, undefined)
  return measure(
    'range-test-marlo',
    report.poses,
    `n is poses: measures, joints in pictures, faces; against a picture of each pose, ${PICTURE} px`,
    () => rangeTest(CK, puppet),
    () => {
      for (const run of report.runs) for (const sample of run.samples) camera.take(run, sample, PICTURE, false)
    },
    FEW_ROUNDS,
  )
}
