/** Bends in the interface. */
import { Spline as SplineIcon } from 'lucide-react'
import type { Bend } from '@marionette/core/deformers/records'
import { freshId } from '@marionette/core/kernel/ids'
import type { Vec } from '@marionette/core/kernel/numbers'
import { distanceToPolyline } from '@marionette/core/maths/geometry/polyline'
import { Spline } from '@marionette/core/maths/geometry/spline'
import type { NewHandle } from '@marionette/core/posing/handles'
import { Check } from './Check'
import { fitting, tenth, type ChangeDeformer, type DeformerView, type WithHandle } from './view'
import { nth } from '@marionette/core/kernel/sure'

/** Points of a bend that is made along the middle of a part. */
const BEND_POINTS = 4

function traceCurve(path: Path2D, spots: readonly Vec[]): void {
  const curve = new Spline(spots.length)
  curve.count = spots.length
  spots.forEach(({ x, y }, i) => curve.points.set([x, y], 2 * i))
  curve.space()
  curve.fit()
  path.moveTo(nth(spots, 0).x, nth(spots, 0).y)
  for (let k = 1; k <= 24 * (spots.length - 1); k++) {
    curve.at((curve.end * k) / (24 * (spots.length - 1)))
    path.lineTo(nth(curve.out, 0), nth(curve.out, 1))
  }
}

/** A point more where the curve is nearest to a spot. */
function addPoint(bend: Bend, made: NewHandle): WithHandle {
  const { points } = bend
  const at = tenth(made.at)
  const far = (i: number): number => {
    const [a, b] = [nth(points, i).at, nth(points, i + 1).at]
    return distanceToPolyline([a.x, a.y, b.x, b.y], false, at.x, at.y)
  }
  const best = points.slice(1).reduce((found, _, i) => (far(i) < far(found) ? i : found), 0)
  const handle = `${bend.id}.${freshId('point').slice(6, 14)}`
  return { deformer: { ...bend, points: points.toSpliced(best + 1, 0, { id: handle, at }) }, handle, label: 'Put in a point of the bend' }
}

const CHECKS = [
  { field: 'stretch', label: 'Stretch', says: 'drawn out with the curve' },
  { field: 'holdStart', label: 'Hold start', says: 'keeps its direction' },
  { field: 'holdEnd', label: 'Hold end', says: 'keeps its direction' },
] as const

function BendFields({ deformer, onChange }: { deformer: Bend; onChange: ChangeDeformer }) {
  return CHECKS.map(({ field, label, says }) => (
    <Check key={field} label={label} says={says} checked={deformer[field]} onChange={(on) => onChange({ ...deformer, [field]: on })} />
  ))
}

export const bendView: DeformerView<Bend> = {
  label: 'Bend',
  icon: SplineIcon,
  action: 'Put a bend through the part',
  aroundSeveral: false,
  handles: 'square',
  turns: true,
  hasBars: false,
  fields: { scale: 'Thickness' },
  make: async ({ puppet, part, id, name }) => (await fitting()).bendAlong(puppet, part, id, BEND_POINTS, name),
  Fields: BendFields,
  trace(path, _, spots) {
    traceCurve(path, spots)
    return 2
  },
  addHandle: addPoint,
  removeHandle: (d, handle) =>
    d.points.length > 2
      ? { deformer: { ...d, points: d.points.filter((p) => p.id !== handle) }, label: 'Take a point out of the bend' }
      : null,
}
